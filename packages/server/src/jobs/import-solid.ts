import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { colourToHex } from '@gull-pane/core/drawing/colour';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { placeItems } from '@gull-pane/core/pyramid/place';
import type { SolidResult } from '@gull-pane/core/solid/solid-model';
import type { ModelFormat } from '@gull-pane/importers/model/model-head';
import { ReadError } from '@gull-pane/importers/read-error';
import type { LayerDto, WarningDto } from '@gull-pane/protocol/drawings';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TextColumns } from '@gull-pane/protocol/texts';
import { SolidCollector } from '../pyramid/collect-solid.ts';
import { ObjectWriter } from '../pyramid/object-writer.ts';
import { PICTURE_WIDTH } from '../pyramid/picture.ts';
import { drawSolidPicture } from '../pyramid/solid-picture.ts';
import { writeSolidTileset } from '../pyramid/write-solid-tileset.ts';
import type { ImportOrder, ImportResult, OnProgress } from './import-messages.ts';
import { readModel } from './read-model.ts';

/** What a tile holds at most, in triangles and edges. */
const TILE_WEIGHT = 8000;

/** What a small picture shows may be off by so much of a px. */
const PICTURE_ERROR_PX = 1;

/** Reads a model and builds everything that is served of it. */
export async function importSolid(
  order: ImportOrder,
  format: ModelFormat,
  onProgress: OnProgress,
): Promise<ImportResult> {
  const { sourcePath, outFolder, limits } = order;
  const objects = new ObjectWriter(outFolder);
  const tell = (): void => onProgress({ stage: 'reading', objects: collector.objects.length });
  const collector: SolidCollector = new SolidCollector(objects, tell);
  const read = await readModel(sourcePath, format, limits.maxElements, collector, (bytes) =>
    onProgress({ stage: 'reading', bytesRead: bytes, objects: collector.objects.length }),
  );
  onProgress({ stage: 'arranging', objects: collector.objects.length });
  collector.finish();
  objects.finish(read.layers.map((_, layer) => layer));
  const { items } = collector;
  if (items.length === 0)
    throw new ReadError(
      'nothing-to-draw',
      [
        'The model was read to its end, but it holds no surface, no edge and no point.',
        ...read.warnings.map(sentenceOf),
      ].join(' '),
    );
  const tiles = join(outFolder, 'tiles');
  const root = placeItems(items, { tileWeight: TILE_WEIGHT, random: seededRandom(1) });
  const files = await writeSolidTileset(root, items, read.materials, tiles, order.tileAddressPrefix, (written, all) =>
    onProgress({ stage: 'tiles', tiles: written, tilesTotal: all }),
  );
  const keep = (name: string, content: SolidTable | TextColumns): void =>
    writeFileSync(join(tiles, `${name}.gz`), gzipSync(JSON.stringify(content)));
  keep('solid.json', tableOf(collector, read));
  keep('texts.json', namesOf(collector));
  const layers = layersOf(collector, read);
  const support = layers.flatMap((layer) => layer.support);
  const ofPx = Math.max(...[0, 1, 2].map((axis) => root.box[axis + 3]! - root.box[axis]!)) / PICTURE_WIDTH;
  const seen = files.pieces(PICTURE_ERROR_PX * ofPx);
  writeFileSync(join(outFolder, 'picture.png'), drawSolidPicture(seen, read.materials, support));
  await files.finish();
  const [minX, minY, minZ, maxX, maxY, maxZ] = root.box as [number, number, number, number, number, number];
  return {
    kind: 'solid',
    unit: 'mm',
    counts: {
      objects: collector.objects.length,
      segments: collector.segments,
      triangles: collector.triangles,
      ...(collector.points > 0 ? { points: collector.points } : {}),
      texts: 0,
      layers: layers.length,
    },
    extents: { min: { x: minX, y: minY, z: minZ }, max: { x: maxX, y: maxY, z: maxZ } },
    layers,
    texts: [],
    warnings: [{ code: 'frame', message: read.frame, count: 1 }, ...read.warnings, ...leftOut(collector)],
    sheets: [],
  };
}

function leftOut({ trianglesLeftOut: count }: SolidCollector): WarningDto[] {
  if (count === 0) return [];
  return [{ code: 'left-out', message: 'triangles that have no area or are there twice are left out', count }];
}

const sentenceOf = ({ message }: { readonly message: string }): string =>
  `${message.charAt(0).toUpperCase()}${message.slice(1)}.`;

function layersOf(collector: SolidCollector, { layers, materials }: SolidResult): LayerDto[] {
  return layers.map(({ name, isOff = false }, id) => {
    const tally = collector.layers.get(id);
    const [commonest] = [...(tally?.areaOfMaterial ?? [])].sort((a, b) => b[1] - a[1]);
    return {
      id,
      name,
      isOff,
      objects: tally?.objects ?? 0,
      segments: tally?.segments ?? 0,
      colour: colourToHex(materials[commonest?.[0] ?? -1]?.colour ?? { r: 128, g: 128, b: 128, a: 255 }),
      support: [...(tally?.hull.hull() ?? [])],
    };
  });
}

function tableOf(
  { objects, boxes, trianglesOf, pointsOf, points }: SolidCollector,
  { tree, materials, cameras }: SolidResult,
): SolidTable {
  return {
    tree: { names: tree.map(({ name }) => name), parents: tree.map(({ parent }) => parent) },
    names: objects.map(({ name }) => name),
    ...(objects.some(({ id }) => id !== undefined) ? { ids: objects.map(({ id = '' }) => id) } : {}),
    nodes: objects.map(({ node }) => node),
    layers: objects.map(({ layer }) => layer),
    triangles: trianglesOf,
    ...(points > 0 ? { points: pointsOf } : {}),
    // JSON has no infinity: what has no shape lies nowhere
    boxes: Array.from(boxes.view(), (value) => (Number.isFinite(value) ? value : 0)),
    materials: materials.map(({ name, colour: { r, g, b, a }, metalness, roughness }) => ({
      name,
      metalness,
      roughness,
      colour: [r, g, b, a] as const,
    })),
    cameras,
  };
}

/** Names and properties, to be looked for where their objects lie. */
function namesOf({ objects, boxes }: SolidCollector): TextColumns {
  const rows = objects.flatMap(({ name, layer, facts = [] }, object) => {
    const box = boxes.view().subarray(6 * object, 6 * object + 6);
    if (!box.every(Number.isFinite)) return [];
    const [x, y, width] = [box[0]!, (box[1]! + box[4]!) / 2, box[3]! - box[0]!];
    const size = Math.max(width, box[4]! - box[1]!, box[5]! - box[2]!) / 10;
    return [name, ...facts].map((content) => ({ content, object, layer, x, y, width, size }));
  });
  return {
    contents: rows.map(({ content }) => content),
    objects: rows.map(({ object }) => object),
    layers: rows.map(({ layer }) => layer),
    x: rows.map(({ x }) => x),
    y: rows.map(({ y }) => y),
    sizes: rows.map(({ size }) => size),
    anglesRad: rows.map(() => 0),
    widths: rows.map(({ width }) => width),
    anchors: rows.map(() => 'start' as const),
  };
}
