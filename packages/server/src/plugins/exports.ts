import { Readable } from 'node:stream';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { idOfAddress } from '@gull-pane/protocol/drawings';
import { markOf } from '@gull-pane/protocol/marks';
import { readDto } from '@gull-pane/protocol/dto';
import { ExportPartDto, exportFormats, type ExportFormat } from '@gull-pane/protocol/export';
import { runExport } from '../exports/run-export.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { contentOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { marksOf } from './marks.ts';
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
export function exportRoutes(app: FastifyInstance, { db, contents }: Services): void {
  const repository = new DrawingsRepository(db);

  app.post('/api/drawings/:id/export/:format', { bodyLimit: 1024 * 1024 }, async (request: OneExport, reply) => {
    const drawing = await contentOf(repository, request);
    const id = idOfAddress(drawing.id);
    const { format } = request.params;
    if (!isFormat(format))
      throw new Problem('not-found', { detail: `There are the formats ${exportFormats.join(', ')}.` });
    const { extension, type, kind } = files[format];
    if (kind !== 'any' && kind !== drawing.kind)
      throw new Problem('bad-request', {
        detail: `${format.toUpperCase()} is for ${kind} drawings; this one is ${drawing.kind}.`,
      });
    const part = checked(() => readDto(ExportPartDto, request.body ?? {}));
    const own = await contents.revision(id, drawing.revision);
    const layers = await repository.layersOf(drawing);
    const hidden = new Set(part.hiddenMarkLayers);
    const marks = (await marksOf(db, id)).filter(({ layer }) => !hidden.has(layer)).map(markOf);
    const pieces = await runExport({ format, folder: own, drawing, layers, part, marks });
    const name = encodeURIComponent(`${drawing.name}.${extension}`);
    void reply.type(type).header('content-disposition', `attachment; filename*=UTF-8''${name}`);
    return reply.send(Readable.from(pieces));
  });
}
