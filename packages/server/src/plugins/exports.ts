import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { gunzipSync } from 'node:zlib';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { readDto } from '@gull-pane/protocol/dto';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { ExportPartDto, exportFormats, type ExportFormat } from '@gull-pane/protocol/export';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import { writeGeoJson } from '@gull-pane/exporters/geojson/write-geojson';
import { writeGlb } from '@gull-pane/exporters/glb/write-glb';
import { writeSvg } from '@gull-pane/exporters/svg/write-svg';
import { exportedFlat, exportedSolids, chosenPart } from '../exports/exported-part.ts';
import { tilesZip } from '../exports/tiles-zip.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { contentOf, idOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';

type OneExport = FastifyRequest<{ Params: { id: string; format: string } }>;

const files: Readonly<
  Record<ExportFormat, { readonly extension: string; readonly type: string; readonly kind: 'flat' | 'solid' | 'any' }>
> = {
  svg: { extension: 'svg', type: 'image/svg+xml', kind: 'flat' },
  geojson: { extension: 'geojson', type: 'application/geo+json', kind: 'flat' },
  glb: { extension: 'glb', type: 'model/gltf-binary', kind: 'solid' },
  '3d-tiles': { extension: '3d-tiles.zip', type: 'application/zip', kind: 'any' },
};

const isFormat = (format: string): format is ExportFormat => exportFormats.some((one) => one === format);

/** Drawings go out in open formats, whole or in part, as they are read: little is held at a time. */
export function exportRoutes(app: FastifyInstance, { db, folder }: Services): void {
  const repository = new DrawingsRepository(db);

  app.post('/api/drawings/:id/export/:format', { bodyLimit: 1024 * 1024 }, async (request: OneExport, reply) => {
    const drawing = await contentOf(repository, idOf(request));
    const { format } = request.params;
    if (!isFormat(format))
      throw new Problem('not-found', { detail: `There are the formats ${exportFormats.join(', ')}.` });
    const { extension, type, kind } = files[format];
    if (kind !== 'any' && kind !== drawing.kind)
      throw new Problem('bad-request', {
        detail: `${format.toUpperCase()} is for ${kind} drawings; this one is ${drawing.kind}.`,
      });
    const part = checked(() => readDto(ExportPartDto, request.body ?? {}));
    const name = encodeURIComponent(`${drawing.name}.${extension}`);
    void reply.type(type).header('content-disposition', `attachment; filename*=UTF-8''${name}`);
    return reply.send(await contentIn(format, drawing, part));
  });

  const contentIn = async (
    format: ExportFormat,
    drawing: DrawingDto,
    part: ExportPartDto,
  ): Promise<Readable | Buffer> => {
    const own = folder.revision(drawing.id, drawing.revision);
    if (format === '3d-tiles') return Readable.from(tilesZip(join(own, 'tiles'), drawing.revision));
    const layers = await repository.layersOf(drawing.id);
    const chosen = chosenPart(part, drawing.counts.objects);
    if (format === 'glb') {
      const table = JSON.parse(
        gunzipSync(await readFile(join(own, 'tiles', 'solid.json.gz'))).toString(),
      ) as SolidTable;
      const solids = exportedSolids(own, chosen);
      return Buffer.from(await writeGlb({ name: drawing.name, layers, materials: table.materials, solids }));
    }
    const exported = await exportedFlat(own, drawing, layers, chosen);
    return Readable.from(inPieces(format === 'svg' ? writeSvg(exported) : writeGeoJson(exported)));
  };
}

const PIECE_LETTERS = 1 << 16;

/** Texts put together to pieces of some size, with a turn for others between them. */
async function* inPieces(texts: Iterable<string>): AsyncGenerator<string> {
  let piece = '';
  for (const text of texts) {
    piece += text;
    if (piece.length < PIECE_LETTERS) continue;
    yield piece;
    piece = '';
    await new Promise(setImmediate);
  }
  if (piece !== '') yield piece;
}
