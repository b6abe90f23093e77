import type { Vec3 } from '../geometry/vec.ts';
import { packGlb, unpackGlb } from '../pyramid/glb.ts';
import { pieceFrom, type TilePiece } from './solid-items.ts';
import type { Material } from './solid-model.ts';

/**
 * Tiles of solids: plain glTF 2.0 that any 3D Tiles client can draw, one primitive of triangles a material and one of
 * lines and one of points. glTF is Y up, so (x, y, z) is written as (x, z, −y), relative to the tile's origin. What glTF has no place for:
 * the normals of both faces of an edge as `_FACES`, what single precision leaves out of a point as `_REST`, and whose the vertices are in `extras`.
 */
export interface DecodedSolidTile {
  /** x, y, z a vertex, drawing units relative to the tile's origin, Z up. */
  readonly positions: Float32Array<ArrayBuffer>;
  /** x, y, z, 0 a vertex, −127 … 127. */
  readonly normals: Int8Array<ArrayBuffer>;
  /** Three vertices a triangle. */
  readonly triangles: Uint32Array<ArrayBuffer>;
  /** x, y, z an end, two ends an edge. */
  readonly edgePositions: Float32Array<ArrayBuffer>;
  /** At each end the normals of both faces: x, y, z, 0 twice. */
  readonly edgeNormals: Int8Array<ArrayBuffer>;
  /** x, y, z a point. */
  readonly pointPositions: Float32Array<ArrayBuffer>;
  /** What is to be added to them: together they are the source's doubles, to 48 bits. */
  readonly pointRests: Float32Array<ArrayBuffer>;
  /** Red, green, blue, 255 a point. */
  readonly pointColours: Uint8Array<ArrayBuffer>;
  /** What each stretch belongs to, {@link RUN} numbers each: object, material, and where its vertices, indices, ends of edges and points end. */
  readonly runs: Uint32Array<ArrayBuffer>;
}

/** Numbers a run. */
export const RUN = 6;
/** Before there were points. */
const FORMER_RUN = 5;

const [FLOAT, UNSIGNED_INT, BYTE, UNSIGNED_BYTE] = [5126, 5125, 5120, 5121];
const [POINTS, LINES, TRIANGLES] = [0, 1, 4];
const [VERTICES, INDICES] = [34962, 34963];

interface View {
  buffer: 0;
  byteOffset: number;
  byteLength: number;
  byteStride?: number;
  target?: number;
}
interface TileJson {
  bufferViews: View[];
  extras: { solid: { vertices: number; ends: number; views: Record<ViewName, number> } };
}
const pointViews = ['pointPositions', 'pointRests', 'pointColours'] as const;
const viewNames = [
  ...(['positions', 'normals', 'triangles', 'edgePositions', 'edgeNormals'] as const),
  ...pointViews,
  'runs',
] as const;
type ViewName = (typeof viewNames)[number];

/** @param content is written in the order of its materials */
export function encodeSolidTile(
  content: readonly TilePiece[],
  origin: Vec3,
  materials: readonly Material[],
): {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly triangles: number;
  readonly edges: number;
  readonly points: number;
} {
  const order = [...content].sort((a, b) => a.material - b.material);
  const pieces = order.map(({ form }) => pieceFrom(form));
  const total = (count: (piece: (typeof pieces)[number]) => number): number =>
    pieces.reduce((sum, piece) => sum + count(piece), 0);
  const vertices = total(({ positions }) => positions.length / 3);
  const ends = total(({ edgePositions }) => edgePositions.length / 3);
  const positions = new Float32Array(3 * vertices);
  const normals = new Int8Array(4 * vertices);
  const triangles = new Uint32Array(total((piece) => piece.triangles.length));
  const edgePositions = new Float32Array(3 * ends);
  const edgeNormals = new Int8Array(8 * ends);
  const points = total((piece) => piece.points.length / 3);
  const pointPositions = new Float32Array(3 * points);
  const pointRests = new Float32Array(3 * points);
  const pointColours = new Uint8Array(4 * points);
  const runs = new Uint32Array(RUN * order.length);
  const stretches: { material: number; from: number; to: number }[] = [];
  let [vertex, index, end, point] = [0, 0, 0, 0];
  pieces.forEach((piece, place) => {
    const { object, material } = order[place]!;
    for (let i = 0; i < piece.triangles.length; i++) triangles[index + i] = vertex + piece.triangles[i]!;
    writeTurned(positions, vertex, piece.positions, origin);
    for (let i = 0; i < piece.normals.length; i += 3) writeNormal(normals, 4 * vertex + (4 * i) / 3, piece.normals, i);
    writeTurned(edgePositions, end, piece.edgePositions, origin);
    for (let edge = 0; edge < piece.edgePositions.length / 6; edge++) {
      const at = 8 * (end + 2 * edge);
      writeNormal(edgeNormals, at, piece.edgeNormals, 6 * edge);
      writeNormal(edgeNormals, at + 4, piece.edgeNormals, 6 * edge + 3);
      for (let k = at; k < at + 8; k++) edgeNormals[k + 8] = edgeNormals[k]!; // the same at the other end
    }
    writeTurned(pointPositions, point, piece.points, origin, pointRests);
    writeColours(pointColours, point, piece.points.length / 3, piece.pointColours, materials[material]);
    const from = index;
    point += piece.points.length / 3;
    vertex += piece.positions.length / 3;
    index += piece.triangles.length;
    end += piece.edgePositions.length / 3;
    runs.set([object, material, vertex, index, end, point], RUN * place);
    const last = stretches.at(-1);
    if (last?.material === material) last.to = index;
    else stretches.push({ material, from, to: index });
  });

  const views: View[] = [];
  const parts = {
    positions,
    normals,
    triangles,
    edgePositions,
    edgeNormals,
    pointPositions,
    pointRests,
    pointColours,
    runs,
  };
  let length = 0;
  for (const name of viewNames) {
    const { byteLength } = parts[name];
    const stride = STRIDES[name];
    const target = name === 'triangles' ? INDICES : name === 'runs' ? undefined : VERTICES;
    views.push({
      buffer: 0,
      byteOffset: length,
      byteLength,
      ...(stride === undefined ? {} : { byteStride: stride }),
      ...(target === undefined ? {} : { target }),
    });
    length += (byteLength + 3) & ~3;
  }
  const bin = new Uint8Array(length);
  viewNames.forEach((name, at) => {
    const { buffer, byteOffset, byteLength } = parts[name];
    bin.set(new Uint8Array(buffer, byteOffset, byteLength), views[at]!.byteOffset);
  });
  const accessors: object[] = [];
  const accessor = (view: ViewName, entry: object): number =>
    accessors.push({ bufferView: viewNames.indexOf(view), ...entry }) - 1;
  const primitives: object[] = [];
  if (vertices > 0) {
    const attributes = {
      POSITION: accessor('positions', { componentType: FLOAT, count: vertices, type: 'VEC3', ...reachOf(positions) }),
      NORMAL: accessor('normals', { componentType: BYTE, normalized: true, count: vertices, type: 'VEC3' }),
    };
    for (const { material, from, to } of stretches) {
      if (from === to) continue;
      const indices = { componentType: UNSIGNED_INT, byteOffset: 4 * from, count: to - from, type: 'SCALAR' };
      primitives.push({ attributes, indices: accessor('triangles', indices), mode: TRIANGLES, material });
    }
  }
  if (ends > 0) {
    const face = { componentType: BYTE, normalized: true, count: ends, type: 'VEC3' };
    const attributes = {
      POSITION: accessor('edgePositions', {
        componentType: FLOAT,
        count: ends,
        type: 'VEC3',
        ...reachOf(edgePositions),
      }),
      _FACE: accessor('edgeNormals', face),
      _OTHER: accessor('edgeNormals', { ...face, byteOffset: 4 }),
    };
    primitives.push({ attributes, mode: LINES });
  }
  if (points > 0) {
    const places = { componentType: FLOAT, count: points, type: 'VEC3' };
    const attributes = {
      POSITION: accessor('pointPositions', { ...places, ...reachOf(pointPositions) }),
      _REST: accessor('pointRests', places),
      COLOR_0: accessor('pointColours', {
        componentType: UNSIGNED_BYTE,
        normalized: true,
        count: points,
        type: 'VEC4',
      }),
    };
    primitives.push({ attributes, mode: POINTS });
  }
  const used = materials.map(({ name, colour: { r, g, b, a }, metalness, roughness }) => ({
    name,
    doubleSided: true,
    pbrMetallicRoughness: {
      baseColorFactor: [...[r, g, b].map(linear), a / 255],
      metallicFactor: metalness,
      roughnessFactor: roughness,
    },
    ...(a < 255 ? { alphaMode: 'BLEND' } : {}),
  }));
  const json = {
    asset: { version: '2.0', generator: 'Gull Pane' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    meshes: [{ primitives }],
    ...(used.length > 0 ? { materials: used } : {}),
    accessors,
    bufferViews: views,
    buffers: [{ byteLength: length }],
    extras: { solid: { vertices, ends, views: Object.fromEntries(viewNames.map((name, at) => [name, at])) } },
  };
  return { bytes: packGlb(json, bin), triangles: index / 3, edges: end / 2, points };
}

/** Bytes from one element to the next, where a view holds vertices. */
const STRIDES: Partial<Record<ViewName, number>> = {
  positions: 12,
  normals: 4,
  edgePositions: 12,
  edgeNormals: 8,
  pointPositions: 12,
  pointRests: 12,
  pointColours: 4,
};

function writeColours(
  to: Uint8Array,
  first: number,
  count: number,
  own: Uint8Array | null,
  material: Material | undefined,
): void {
  const { r, g, b } = material?.colour ?? { r: 128, g: 128, b: 128 };
  for (let i = 0; i < count; i++) {
    const at = 4 * (first + i);
    to[at] = own ? own[3 * i]! : r;
    to[at + 1] = own ? own[3 * i + 1]! : g;
    to[at + 2] = own ? own[3 * i + 2]! : b;
    to[at + 3] = 255;
  }
}

/** A channel of sRGB, 0 … 255, as glTF wants it: linear light, 0 … 1 (IEC 61966-2-1). */
function linear(channel: number): number {
  const share = channel / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
}

/** @param rests takes what single precision leaves out */
function writeTurned(
  to: Float32Array,
  vertex: number,
  from: Float64Array,
  origin: Vec3,
  rests: Float32Array | null = null,
): void {
  for (let i = 0; i < from.length; i += 3) {
    const at = 3 * vertex + i;
    const [x, y, z] = [from[i]! - origin.x, from[i + 2]! - origin.z, -(from[i + 1]! - origin.y)];
    to[at] = x;
    to[at + 1] = y;
    to[at + 2] = z;
    if (!rests) continue;
    rests[at] = x - to[at];
    rests[at + 1] = y - to[at + 1]!;
    rests[at + 2] = z - to[at + 2]!;
  }
}

function writeNormal(to: Int8Array, at: number, from: ArrayLike<number>, i: number): void {
  to[at] = Math.round(127 * from[i]!);
  to[at + 1] = Math.round(127 * from[i + 2]!);
  to[at + 2] = -Math.round(127 * from[i + 1]!);
}

function reachOf(positions: Float32Array): { min: number[]; max: number[] } {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let axis = 0; axis < 3; axis++) {
    let [least, most] = [Infinity, -Infinity];
    for (let i = axis; i < positions.length; i += 3) {
      if (positions[i]! < least) least = positions[i]!;
      if (positions[i]! > most) most = positions[i]!;
    }
    [min[axis], max[axis]] = [least, most];
  }
  return { min, max };
}

/**
 * Reads a tile that {@link encodeSolidTile} wrote; not a general glTF reader.
 * @throws RangeError if the bytes are not such a tile
 */
export function decodeSolidTile(bytes: Uint8Array): DecodedSolidTile {
  const { json, bin } = unpackGlb(bytes);
  const { bufferViews, extras } = json as Partial<TileJson>;
  const names = extras?.solid.views;
  if (!bufferViews || !names) throw new RangeError('decodeSolidTile: this is a glTF file, but not one of our tiles');
  const cut = (name: ViewName): ArrayBuffer => {
    const view = bufferViews[names[name]];
    if (!view || view.byteOffset + view.byteLength > bin.length)
      throw new RangeError(`decodeSolidTile: the ${name} are cut off`);
    // not bin.slice: some kinds of bytes (Node's Buffer) don't copy there
    return Uint8Array.from(bin.subarray(view.byteOffset, view.byteOffset + view.byteLength)).buffer;
  };
  const positions = new Float32Array(cut('positions'));
  const normals = new Int8Array(cut('normals'));
  const edgePositions = new Float32Array(cut('edgePositions'));
  const edgeNormals = new Int8Array(cut('edgeNormals'));
  turnBack(positions, 3);
  turnBack(edgePositions, 3);
  turnBack(normals, 4);
  turnBack(edgeNormals, 4);
  const hasPoints = 'pointPositions' in names;
  const [pointPositions, pointRests, pointColours] = pointViews.map((name) =>
    hasPoints ? cut(name) : new ArrayBuffer(0),
  ) as [ArrayBuffer, ArrayBuffer, ArrayBuffer];
  const points = { pointPositions: new Float32Array(pointPositions), pointRests: new Float32Array(pointRests) };
  turnBack(points.pointPositions, 3);
  turnBack(points.pointRests, 3);
  const runs = new Uint32Array(cut('runs'));
  return {
    positions,
    normals,
    edgePositions,
    edgeNormals,
    triangles: new Uint32Array(cut('triangles')),
    ...points,
    pointColours: new Uint8Array(pointColours),
    runs: hasPoints ? runs : withoutPoints(runs),
  };
}

/** Runs of a tile that was written before there were points. */
function withoutPoints(former: Uint32Array): Uint32Array<ArrayBuffer> {
  const runs = new Uint32Array((former.length / FORMER_RUN) * RUN);
  for (let run = 0; run * FORMER_RUN < former.length; run++)
    runs.set(former.subarray(FORMER_RUN * run, FORMER_RUN * (run + 1)), RUN * run);
  return runs;
}

function turnBack(values: Float32Array | Int8Array, stride: number): void {
  for (let i = 0; i + 2 < values.length; i += stride) {
    const up = values[i + 1]!;
    values[i + 1] = -values[i + 2]!;
    values[i + 2] = up;
  }
}
