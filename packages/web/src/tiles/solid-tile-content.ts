import { indexTriangles, type SightIndex } from '@gull-pane/core/solid/sight-hit';
import { RUN, type DecodedSolidTile } from '@gull-pane/core/solid/solid-tile';
import { numbersOf } from './tile-content';

/** A tile of a solid as it is drawn and pointed at. */
export interface SolidTileContent extends DecodedSolidTile {
  /** Object of each vertex, and of each end of an edge. */
  readonly objects: Float32Array<ArrayBuffer>;
  readonly edgeObjects: Float32Array<ArrayBuffer>;
  /** Material likewise. */
  readonly materials: Float32Array<ArrayBuffer>;
  readonly edgeMaterials: Float32Array<ArrayBuffer>;
  /** At each end of an edge: length of all edges of its piece to the square of the piece's size, 1 / drawing unit. */
  readonly edgeDensities: Float32Array<ArrayBuffer>;
  readonly sights: SightIndex;
}

export function arrangeSolidTile(tile: DecodedSolidTile): SolidTileContent {
  const { runs, positions, edgePositions } = tile;
  const objects = new Float32Array(positions.length / 3);
  const materials = new Float32Array(positions.length / 3);
  const edgeObjects = new Float32Array(edgePositions.length / 3);
  const edgeMaterials = new Float32Array(edgePositions.length / 3);
  const edgeDensities = new Float32Array(edgePositions.length / 3);
  let [vertex, end] = [0, 0];
  for (let run = 0; run < runs.length; run += RUN) {
    const [object, material, vertices, , ends] = runs.subarray(run, run + RUN) as unknown as [
      number,
      number,
      number,
      number,
      number,
    ];
    objects.fill(object, vertex, vertices);
    materials.fill(material, vertex, vertices);
    edgeObjects.fill(object, end, ends);
    edgeMaterials.fill(material, end, ends);
    edgeDensities.fill(inkDensity(edgePositions.subarray(3 * end, 3 * ends)), end, ends);
    [vertex, end] = [vertices, ends];
  }
  return { ...tile, objects, materials, edgeObjects, edgeMaterials, edgeDensities, sights: indexTriangles(tile) };
}

/** How dense edges stand. @param ends x, y, z of two ends an edge */
function inkDensity(ends: Float32Array): number {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  let length = 0;
  for (let i = 0; i < ends.length; i++) {
    const axis = i % 3;
    low[axis] = Math.min(low[axis]!, ends[i]!);
    high[axis] = Math.max(high[axis]!, ends[i]!);
    if (i % 6 === 0)
      length += Math.hypot(ends[i + 3]! - ends[i]!, ends[i + 4]! - ends[i + 1]!, ends[i + 5]! - ends[i + 2]!);
  }
  const size2 = low.reduce((sum, value, axis) => sum + (high[axis]! - value) ** 2, 0);
  return size2 > 0 ? length / size2 : 0;
}

/** The memory of its numbers. */
export const buffersOfSolid = (content: SolidTileContent): ArrayBuffer[] => [
  ...numbersOf(content),
  ...numbersOf(content.sights),
];
