import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
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
import type { ImportOrder, ImportResult, OnProgress } from './import-messages.ts';

/** Where on the globe a drawing lies. */
export const PLACE_FILE = 'place.json';
/** What a tile holds at most, in segments. */
const TILE_WEIGHT = 6000;

/** Reads a flat drawing and builds everything that is served of it. */
export async function importFlat(order: ImportOrder, onProgress: OnProgress): Promise<ImportResult> {
  const { limits } = order;
  const objects = new ObjectWriter(order.outFolder);
  const collector = new Collector(objects);
  const read = await readSource(order.sourcePath, limits, collector, (bytesRead) =>
    onProgress({ stage: 'reading', bytesRead, objects: collector.objects }),
  );
  onProgress({ stage: 'arranging', objects: collector.objects });
  objects.finish(read.layerOfNode);
  if (collector.items.length === 0) {
    throw new ReadError('nothing-to-draw', 'The file was read to its end, but it holds no visible line, fill or text.');
  }
  const root = placeItems(collector.items, { tileWeight: TILE_WEIGHT, random: seededRandom(1) });
  const tiles = join(order.outFolder, 'tiles');
  await writeTileset(root, collector.items, read.styles, tiles, order.tileAddressPrefix, (written, all) =>
    onProgress({ stage: 'tiles', tiles: written, tilesTotal: all }),
  );
  writeFileSync(join(order.outFolder, 'styles.json'), JSON.stringify(read.styles));
  if (read.meridianDeg !== undefined)
    writeFileSync(join(order.outFolder, PLACE_FILE), JSON.stringify({ meridianDeg: read.meridianDeg }));
  const layerOf = (object: number): number => read.layerOfNode[objects.nodeOf(object)] ?? 0;
  await writeObjectIndex(collector, objects, read.styles, layerOf, order.outFolder);
  const { minX, minY, maxX, maxY } = collector.box;
  const hasGeometry = minX <= maxX;
  writeFileSync(
    join(order.outFolder, 'picture.png'),
    drawPicture(collector.items, read.styles, hasGeometry ? [minX, minY, maxX, maxY] : root.box),
  );
  return {
    kind: 'flat',
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
      objectId,
      layer: read.layerOfNode[node] ?? 0,
      content: mark.text,
      x: mark.x,
      y: mark.y,
      size: mark.size,
      angleRad: mark.angleRad,
    })),
    warnings: [...read.warnings, ...collector.warnings],
    sheets: (read.sheets ?? []).map(({ name, minX, minY, maxX, maxY }) => ({ name, minX, minY, maxX, maxY })),
  };
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
