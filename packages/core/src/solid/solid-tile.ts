import { unpackGlb } from '../pyramid/glb.ts';
import {
  PLACE,
  placeNormals,
  placePoints,
  turnBack,
  type PackedShape,
  type ShapeEntry,
  type ShapePack,
} from './packed-shape.ts';

/**
 * Tiles of solids: plain glTF 2.0 that any 3D Tiles client can draw, one primitive of triangles a material and one of
 * lines and one of points. Shapes that stand several times lie in packs beside the tiles and are instances here
 * (EXT_mesh_gpu_instancing). glTF is Y up, so (x, y, z) is written as (x, z, −y), relative to the tile's origin. What glTF has no place for:
 * the normals of both faces of an edge as `_FACE` and `_OTHER`, what single precision leaves out of a point as `_REST`, and in `extras`
 * whose the vertices are and, in doubles, where shapes of packs stand.
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

/** What a tile keeps beside what glTF has a place for. */
export interface TileExtras {
  readonly vertices: number;
  readonly ends: number;
  readonly views: Partial<Record<ViewName, number>>;
  /** Names of the packs that it needs, and the shapes in them with the number of their places. */
  readonly packs?: readonly string[];
  readonly shapes?: readonly (ShapeEntry & { readonly pack: number; readonly places: number })[];
}

interface TileJson {
  bufferViews: { readonly byteOffset: number; readonly byteLength: number }[];
  extras: { solid: TileExtras };
}
export const pointViews = ['pointPositions', 'pointRests', 'pointColours'] as const;
/** What a tile says of the places of shapes: object and material of each, and {@link PLACE} numbers. */
export const placeViews = ['owners', 'places'] as const;
export const viewNames = [
  ...(['positions', 'normals', 'triangles', 'edgePositions', 'edgeNormals'] as const),
  ...pointViews,
  'runs',
  ...placeViews,
] as const;
export type ViewName = (typeof viewNames)[number];

/** A tile whose packs may still have to be fetched. */
export interface OpenedSolidTile {
  /** Names of the packs that it needs. */
  readonly packs: readonly string[];
  /** @throws RangeError if a pack isn't there, or the tile or a pack is cut off */
  decode(packs: ReadonlyMap<string, ShapePack>): DecodedSolidTile;
}

/**
 * Opens a tile that `encodeSolidTile` wrote; not a general glTF reader.
 * @throws RangeError if the bytes are not such a tile
 */
export function openSolidTile(bytes: Uint8Array): OpenedSolidTile {
  const { json, bin } = unpackGlb(bytes);
  const { bufferViews, extras } = json as Partial<TileJson>;
  const solid = extras?.solid;
  if (!bufferViews || !solid) throw new RangeError('openSolidTile: this is a glTF file, but not one of our tiles');
  const cut = (name: ViewName): ArrayBuffer => {
    const view = bufferViews[solid.views[name] ?? -1];
    if (!view || view.byteOffset + view.byteLength > bin.length)
      throw new RangeError(`openSolidTile: the ${name} are cut off`);
    // not bin.slice: some kinds of bytes (Node's Buffer) don't copy there
    return Uint8Array.from(bin.subarray(view.byteOffset, view.byteOffset + view.byteLength)).buffer;
  };
  const decode = (packs: ReadonlyMap<string, ShapePack>): DecodedSolidTile => {
    const own = ownParts(solid, cut);
    return solid.shapes ? withShapes(own, solid, cut, packs) : own;
  };
  return { packs: solid.packs ?? [], decode };
}

/** A tile that needs no packs, or has them at hand. @throws RangeError as {@link openSolidTile} does */
export const decodeSolidTile = (
  bytes: Uint8Array,
  packs: ReadonlyMap<string, ShapePack> = new Map(),
): DecodedSolidTile => openSolidTile(bytes).decode(packs);

type Cut = (name: ViewName) => ArrayBuffer;

/** What lies in the tile itself. */
function ownParts({ views }: TileExtras, cut: Cut): DecodedSolidTile {
  const positions = new Float32Array(cut('positions'));
  const normals = new Int8Array(cut('normals'));
  const edgePositions = new Float32Array(cut('edgePositions'));
  const edgeNormals = new Int8Array(cut('edgeNormals'));
  turnBack(positions, 3);
  turnBack(edgePositions, 3);
  turnBack(normals, 4);
  turnBack(edgeNormals, 4);
  const hasPoints = 'pointPositions' in views;
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

/** A tile with the shapes of packs put where they stand. */
function withShapes(
  own: DecodedSolidTile,
  { shapes = [], packs: names = [] }: TileExtras,
  cut: Cut,
  packs: ReadonlyMap<string, ShapePack>,
): DecodedSolidTile {
  const owners = new Uint32Array(cut('owners'));
  const places = new Float64Array(cut('places'));
  const standing = shapes.map((entry) => {
    const pack = packs.get(names[entry.pack] ?? '');
    if (!pack) throw new RangeError(`openSolidTile: the pack ${names[entry.pack]} isn’t there`);
    return { shape: pack.shape(entry), count: entry.places };
  });
  const placesTold = standing.reduce((sum, { count }) => sum + count, 0);
  if (owners.length !== 2 * placesTold || places.length !== PLACE * placesTold)
    throw new RangeError('openSolidTile: the places of shapes are cut off');
  const all = roomFor(own, standing, placesTold);
  let [vertex, corner, end, run] = [
    own.positions.length / 3,
    own.triangles.length,
    own.edgePositions.length / 3,
    own.runs.length,
  ];
  const points = own.pointPositions.length / 3;
  let place = 0;
  for (const { shape, count } of standing)
    for (let k = 0; k < count; k++, place++) {
      const at = PLACE * place;
      placePoints(shape.positions, places, at, all.positions, 3 * vertex);
      placeNormals(shape.normals, places, at, all.normals, 4 * vertex);
      for (let i = 0; i < shape.triangles.length; i++) all.triangles[corner + i] = vertex + shape.triangles[i]!;
      placePoints(shape.edgePositions, places, at, all.edgePositions, 3 * end);
      placeNormals(shape.edgeNormals, places, at, all.edgeNormals, 8 * end);
      vertex += shape.positions.length / 3;
      corner += shape.triangles.length;
      end += shape.edgePositions.length / 3;
      all.runs.set([owners[2 * place]!, owners[2 * place + 1]!, vertex, corner, end, points], run);
      run += RUN;
    }
  return all;
}

/** A tile as large as it becomes, filled as far as it holds things itself. */
function roomFor(
  own: DecodedSolidTile,
  standing: readonly { readonly shape: PackedShape; readonly count: number }[],
  places: number,
): DecodedSolidTile {
  const more = (lengthOf: (shape: PackedShape) => number): number =>
    standing.reduce((sum, { shape, count }) => sum + count * lengthOf(shape), 0);
  const grown = <List extends Float32Array | Int8Array | Uint32Array>(list: List, length: number): List => {
    const all = new (list.constructor as new (length: number) => List)(list.length + length);
    all.set(list);
    return all;
  };
  return {
    ...own,
    positions: grown(
      own.positions,
      more(({ positions }) => positions.length),
    ),
    normals: grown(
      own.normals,
      more(({ normals }) => normals.length),
    ),
    triangles: grown(
      own.triangles,
      more(({ triangles }) => triangles.length),
    ),
    edgePositions: grown(
      own.edgePositions,
      more(({ edgePositions }) => edgePositions.length),
    ),
    edgeNormals: grown(
      own.edgeNormals,
      more(({ edgeNormals }) => edgeNormals.length),
    ),
    runs: grown(own.runs, RUN * places),
  };
}

/** Runs of a tile that was written before there were points. */
function withoutPoints(former: Uint32Array): Uint32Array<ArrayBuffer> {
  const runs = new Uint32Array((former.length / FORMER_RUN) * RUN);
  for (let run = 0; run * FORMER_RUN < former.length; run++)
    runs.set(former.subarray(FORMER_RUN * run, FORMER_RUN * (run + 1)), RUN * run);
  return runs;
}
