/** Reads one file and builds everything that is served of it, in a thread of its own. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { join } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { colourToHex, opaque } from '@gull-pane/core/drawing/colour';
import { convexHull } from '@gull-pane/core/geometry/hull';
import { placeItems } from '@gull-pane/core/pyramid/place';
import { ReadError } from '@gull-pane/importers/read-error';
import type { LayerDto } from '@gull-pane/protocol/drawings';
import { Collector, type GroupTally } from '../pyramid/collect.ts';
import { ObjectWriter } from '../pyramid/object-store.ts';
import { drawPicture } from '../pyramid/picture.ts';
import { writeObjectIndex } from '../pyramid/write-object-index.ts';
import { writeTileset } from '../pyramid/write-tileset.ts';
import { readSource, type SourceContent } from './read-source.ts';
import type { FromImport, ImportOrder, ImportResult } from './import-messages.ts';

/** What a tile holds at most, in segments. */
const TILE_WEIGHT = 6000;
const PROGRESS_EVERY_BYTES = 1 << 19;

const order = workerData as ImportOrder;
const say = (message: FromImport): void => parentPort!.postMessage(message);

async function run(): Promise<ImportResult> {
  mkdirSync(order.outFolder, { recursive: true });
  const { limits } = order;
  const objects = new ObjectWriter(order.outFolder);
  const collector = new Collector(objects);
  let told = 0;
  const read = await readSource(order.sourcePath, limits, collector, (bytesRead) => {
    if (bytesRead - told < PROGRESS_EVERY_BYTES) return;
    told = bytesRead;
    say({ kind: 'progress', bytesRead, objects: collector.objects });
  });
  objects.finish(read.layerOfNode);
  if (collector.items.length === 0) {
    throw new ReadError('nothing-to-draw', 'The file was read to its end, but it holds no visible line, fill or text.');
  }
  say({ kind: 'progress', bytesRead: told, objects: collector.objects });
  const root = placeItems(collector.items, { tileWeight: TILE_WEIGHT, random: seededRandom(1) });
  await writeTileset(root, collector.items, read.styles, join(order.outFolder, 'tiles'), order.tileAddressPrefix);
  const layerOf = (object: number): number => read.layerOfNode[objects.nodeOf(object)] ?? 0;
  await writeObjectIndex(collector, objects, read.styles, layerOf, order.outFolder);
  const { minX, minY, maxX, maxY } = collector.box;
  const hasGeometry = minX <= maxX;
  writeFileSync(
    join(order.outFolder, 'picture.png'),
    drawPicture(collector.items, read.styles, hasGeometry ? [minX, minY, maxX, maxY] : root.box),
  );
  return {
    unit: read.unit,
    counts: {
      objects: collector.objects,
      segments: collector.segments,
      triangles: collector.triangles,
      texts: collector.texts.length,
      layers: read.layers.length,
    },
    extents: hasGeometry ? { min: { x: minX, y: minY, z: 0 }, max: { x: maxX, y: maxY, z: 0 } } : null,
    layers: layersOf(read, collector),
    texts: collector.texts.map(({ objectId, node, mark }) => ({
      ...{ objectId, layer: read.layerOfNode[node] ?? 0, content: mark.text },
      ...{ x: mark.x, y: mark.y, size: mark.size, angleRad: mark.angleRad },
    })),
    warnings: [...read.warnings, ...collector.warnings],
    sheets: (read.sheets ?? []).map(({ name, minX, minY, maxX, maxY }) => ({ name, minX, minY, maxX, maxY })),
  };
}

/** Lets the thread that answers requests go first where cores are few: on Linux a priority is a thread's own. */
function yieldTheProcessor(): void {
  if (process.platform !== 'linux') return; // elsewhere it would be the whole process's
  try {
    setPriority(10);
  } catch {
    // where it isn't allowed, the import is merely less polite
  }
}

/** Puts the groups of the source together to layers, with their support points and their commonest colour. */
function layersOf(read: SourceContent, collector: Collector): LayerDto[] {
  const segmentsOfColour = read.layers.map(() => new Map<string, number>());
  read.styles.forEach((style, index) => {
    const segments = collector.segmentsOfStyle.get(index) ?? (style.kind === 'text' ? 0.5 : 0);
    const tally = segmentsOfColour[style.layer];
    const hex = colourToHex(style.colour);
    tally?.set(hex, (tally.get(hex) ?? 0) + segments);
  });
  const groupsOfLayer = read.layers.map((): GroupTally[] => []);
  for (const [node, group] of collector.groups) groupsOfLayer[read.layerOfNode[node]!]?.push(group);
  return read.layers.map(({ name, isOff = false }, id) => {
    const groups = groupsOfLayer[id]!;
    const hull = convexHull(groups.flatMap((group) => [...group.hull.hull()]));
    const support: number[] = [];
    for (let i = 0; i < hull.length; i += 2) support.push(hull[i]!, hull[i + 1]!, 0);
    const [commonest] = [...segmentsOfColour[id]!].sort((a, b) => b[1] - a[1]);
    return {
      id,
      name,
      isOff,
      colour: commonest?.[0] ?? colourToHex(opaque(0, 0, 0)),
      objects: groups.reduce((sum, group) => sum + group.objects, 0),
      segments: groups.reduce((sum, group) => sum + group.segments, 0),
      support,
    };
  });
}

yieldTheProcessor();
try {
  say({ kind: 'done', result: await run() });
} catch (error) {
  if (error instanceof ReadError) {
    say({ kind: 'refused', code: error.code, message: error.message, ...(error.place ?? {}) });
  } else throw error;
}
