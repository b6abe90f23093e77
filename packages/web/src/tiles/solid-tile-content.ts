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
  /** At each end of an edge the normals of its two faces: x, y, z, 0, −127 … 127. */
  readonly edgeFaces: Int8Array<ArrayBuffer>;
  readonly edgeOthers: Int8Array<ArrayBuffer>;
  /** At each end of an edge: length of all edges of its piece to the square of the piece's size, 1 / drawing unit. */
  readonly edgeDensities: Float32Array<ArrayBuffer>;
  /** Object of each point. */
  readonly pointObjects: Float32Array<ArrayBuffer>;
  readonly sights: SightIndex;
}

export function arrangeSolidTile(tile: DecodedSolidTile): SolidTileContent {
  const { runs, positions, edgePositions } = tile;
  const objects = new Float32Array(positions.length / 3);
  const materials = new Float32Array(positions.length / 3);
  const edgeObjects = new Float32Array(edgePositions.length / 3);
  const edgeMaterials = new Float32Array(edgePositions.length / 3);
  const edgeDensities = new Float32Array(edgePositions.length / 3);
  const pointObjects = new Float32Array(tile.pointPositions.length / 3);
  let [vertex, end, point] = [0, 0, 0];
  for (let run = 0; run < runs.length; run += RUN) {
    const [object, material] = [runs[run]!, runs[run + 1]!];
    const [vertices, ends, points] = [runs[run + 2]!, runs[run + 4]!, runs[run + 5]!];
    pointObjects.fill(object, point, points);
    objects.fill(object, vertex, vertices);
    materials.fill(material, vertex, vertices);
    edgeObjects.fill(object, end, ends);
    edgeMaterials.fill(material, end, ends);
    edgeDensities.fill(inkDensity(edgePositions, 3 * end, 3 * ends), end, ends);
    [vertex, end, point] = [vertices, ends, points];
  }
  const [edgeFaces, edgeOthers] = halves(tile.edgeNormals);
  return {
    ...tile,
    edgeFaces,
    edgeOthers,
    objects,
    materials,
    edgeObjects,
    edgeMaterials,
    edgeDensities,
    pointObjects,
    sights: indexTriangles(tile),
  };
}

/** Eight numbers an end taken apart into twice four. */
function halves(both: Int8Array<ArrayBuffer>): [Int8Array<ArrayBuffer>, Int8Array<ArrayBuffer>] {
  // four bytes are one word
  const words = new Int32Array(both.buffer, both.byteOffset, both.length / 4);
  const [first, second] = [new Int32Array(words.length / 2), new Int32Array(words.length / 2)];
  for (let i = 0; i < first.length; i++) {
    first[i] = words[2 * i]!;
    second[i] = words[2 * i + 1]!;
  }
  return [new Int8Array(first.buffer), new Int8Array(second.buffer)];
}

/** How dense the edges of a stretch stand. @param p x, y, z of two ends an edge */
function inkDensity(p: Float32Array, from: number, to: number): number {
  let [minX, minY, minZ, maxX, maxY, maxZ] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  let length = 0;
  for (let i = from; i < to; i += 3) {
    const [x, y, z] = [p[i]!, p[i + 1]!, p[i + 2]!];
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
    if (z < minZ) minZ = z;
    if (z > maxZ) maxZ = z;
    if ((i - from) % 6 !== 0) continue;
    const [dx, dy, dz] = [p[i + 3]! - x, p[i + 4]! - y, p[i + 5]! - z];
    length += Math.sqrt(dx * dx + dy * dy + dz * dz);
  }
  const size2 = to > from ? (maxX - minX) ** 2 + (maxY - minY) ** 2 + (maxZ - minZ) ** 2 : 0;
  return size2 > 0 ? length / size2 : 0;
}

/** The memory of its numbers. */
export const buffersOfSolid = (content: SolidTileContent): ArrayBuffer[] => [
  ...numbersOf(content),
  ...numbersOf(content.sights),
];
