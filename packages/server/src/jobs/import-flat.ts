import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { colourToHex, opaque } from '@gull-pane/core/drawing/colour';
import { convexHull } from '@gull-pane/core/geometry/hull';
import { placeItems, type PlacedTile } from '@gull-pane/core/pyramid/place';
import { transformPath } from '@gull-pane/core/drawing/path';
import type { Style } from '@gull-pane/core/drawing/model';
import { rectangle } from '@gull-pane/importers/clip-path';
import { ReadError } from '@gull-pane/importers/read-error';
import type { TilesetPicture } from '@gull-pane/protocol/tileset';
import type { LayerDto, WarningDto } from '@gull-pane/protocol/drawings';
import { Collector, type GroupTally } from '../pyramid/collect.ts';
import { indexBeside } from '../pyramid/index-beside.ts';
import { ObjectWriter } from '../pyramid/object-writer.ts';
import { drawPicture } from '../pyramid/picture.ts';
import { PictureStore } from '../pyramid/picture-store.ts';
import { smallPictures } from '../pyramid/small-pictures.ts';
import { indexSourceOf } from '../pyramid/write-object-index.ts';
import { writePictures } from '../pyramid/write-pictures.ts';
import { writeTileset } from '../pyramid/write-tileset.ts';
import type { SourceContent } from './read-here.ts';
import { readSource } from './read-source.ts';
import type { ImportOrder, ImportResult, OnProgress } from './import-messages.ts';

/** Where on the globe a drawing lies. */
export const PLACE_FILE = 'place.json';
/** What a tile holds at most, in segments. */
const TILE_WEIGHT = 6000;

/** Reads a flat drawing and builds everything that is served of it. */
export async function importFlat(order: ImportOrder, onProgress: OnProgress): Promise<ImportResult> {
  const { limits } = order;
  const objects = new ObjectWriter(order.outFolder);
  const pictures = new PictureStore(order.outFolder);
  const collector = new Collector(objects, pictures);
  const read = await readSource(order.sourcePath, limits, collector, (bytesRead) =>
    onProgress({ stage: 'reading', bytesRead, objects: collector.objects }),
  );
  onProgress({ stage: 'arranging', objects: collector.objects });
  const layerOfNode = (node: number): number => read.layerOfNode[node] ?? 0;
  const { placed, faults } = await writePictures(pictures, limits, layerOfNode, (done) =>
    onProgress({ stage: 'tiles', tiles: done, tilesTotal: pictures.sources.length }),
  );
  const styles = [...read.styles];
  if (collector.items.length === 0) {
    if (faults[0] && placed.length === 0) throw faults[0];
    if (placed.length === 0)
      throw new ReadError(
        'nothing-to-draw',
        'The file was read to its end, but it holds no visible line, fill, text or picture.',
      );
    styles.push(drawEdges(collector, placed, styles.length));
  }
  const folder = join(order.outFolder, 'tiles');
  mkdirSync(folder, { recursive: true });
  const index = indexBeside(indexSourceOf(collector, objects.finish(read.layerOfNode), styles), order.outFolder);
  let root: PlacedTile;
  try {
    root = placeItems(collector.items, { tileWeight: TILE_WEIGHT, random: seededRandom(1), memory: 'shared' });
    await index.makeRoom();
    const tiles = { styles, folder, addressPrefix: order.tileAddressPrefix };
    await writeTileset(root, collector.items, tiles, placed, (written, all) =>
      onProgress({ stage: 'tiles', tiles: written, tilesTotal: all }),
    );
    await index.finish();
  } finally {
    await index.stop();
  }
  writeFileSync(join(order.outFolder, 'styles.json'), JSON.stringify(styles));
  if (read.meridianDeg !== undefined)
    writeFileSync(join(order.outFolder, PLACE_FILE), JSON.stringify({ meridianDeg: read.meridianDeg }));
  const { minX, minY, maxX, maxY } = collector.box;
  const hasGeometry = minX <= maxX;
  writeFileSync(
    join(order.outFolder, 'picture.png'),
    drawPicture(
      collector.items,
      styles,
      hasGeometry ? [minX, minY, maxX, maxY] : root.box,
      await smallPictures(pictures, placed),
    ),
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
    warnings: [...read.warnings, ...collector.warnings, ...faults.map(warningOf)],
    sheets: (read.sheets ?? []).map(({ name, minX, minY, maxX, maxY }) => ({ name, minX, minY, maxX, maxY })),
  };
}

const warningOf = ({ code, message }: ReadError): WarningDto => ({
  code,
  message: `a picture is left out. ${message}`,
  count: 1,
});

const EDGE_COLOUR = { r: 128, g: 136, b: 144, a: 255 };

/** Where a drawing is nothing but pictures their edges are drawn, so that there is something to go by. @returns their style */
function drawEdges({ items }: Collector, pictures: readonly TilesetPicture[], style: number): Style {
  for (const { object, place } of pictures) {
    const [a, b, c, d, e, f] = place;
    items.addPath(transformPath(rectangle([0, 0, 1, 1]), { a, b, c, d, e, f }), style, object);
  }
  return { kind: 'line', layer: pictures[0]!.layer, colour: EDGE_COLOUR, width: 0, dashes: [] };
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
