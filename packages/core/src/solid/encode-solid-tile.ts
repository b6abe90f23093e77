import type { Vec3 } from '../geometry/vec.ts';
import { packGlb } from '../pyramid/glb.ts';
import { Instances } from './instances.ts';
import { TILE_NORMAL } from './packed-shape.ts';
import { reachOf, type ShapePacks } from './shape-packs.ts';
import type { NumbersAt } from './mesh-recipe.ts';
import { turned, type PlacedPoints, type TilePiece } from './solid-items.ts';
import type { Material } from './solid-model.ts';
import { RUN, viewNames, type DecodedSolidTile, type TileExtras, type ViewName } from './solid-tile.ts';
import { ComponentType, Mode, TileDocument, type ViewRules } from './tile-document.ts';

/** A tile as it is written, and how much it holds with the shapes of packs. */
export interface EncodedSolidTile {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly triangles: number;
  readonly edges: number;
  readonly points: number;
}

/**
 * Writes a tile, and what it needs of packs.
 * @param content is written in the order of its materials
 * @param packs take shapes that stand several times; without them the tile holds everything itself
 */
export function encodeSolidTile(
  content: readonly TilePiece[],
  origin: Vec3,
  materials: readonly Material[],
  packs: ShapePacks | null = null,
): EncodedSolidTile {
  const instances = new Instances();
  const held: TilePiece[] = [];
  for (const piece of content) {
    const { object, material, form } = piece;
    const kept = packs && !('points' in form) ? packs.placed(form, origin) : null;
    if (kept) instances.add(kept, object, material);
    else held.push(piece);
  }
  const { parts, stretches } = gathered(held, origin, materials);
  const document = new TileDocument();
  const views: Partial<Record<ViewName, number>> = {};
  const all: Partial<Record<ViewName, ArrayBufferView<ArrayBuffer>>> = { ...parts, ...instances.columns() };
  for (const name of viewNames) {
    const own = all[name];
    if (own) views[name] = document.view(own, viewRules[name] ?? {});
  }
  addOwnMesh(document, parts, stretches, views);
  const shapes = instances.write(document);
  const [vertices, ends] = [parts.positions.length / 3, parts.edgePositions.length / 3];
  const extras: TileExtras = { vertices, ends, views, ...shapes };
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
  const { json, bin } = document.finish(used, { solid: extras });
  return {
    bytes: packGlb(json, bin),
    triangles: parts.triangles.length / 3 + instances.total(({ corners }) => corners / 3),
    edges: ends / 2 + instances.total((shape) => shape.ends / 2),
    points: parts.pointPositions.length / 3,
  };
}

/** A run of triangles in one material. */
interface Stretch {
  readonly material: number;
  readonly from: number;
  to: number;
}

/** What the tile holds itself, in one list of each kind. */
function gathered(
  content: readonly TilePiece[],
  origin: Vec3,
  materials: readonly Material[],
): { readonly parts: DecodedSolidTile; readonly stretches: readonly Stretch[] } {
  const order = [...content].sort((a, b) => a.material - b.material);
  let [vertices, ends, points, corners] = [0, 0, 0, 0];
  for (const { form } of order)
    if ('points' in form) points += form.points.length;
    else {
      vertices += form.recipe.vertices.length;
      ends += form.recipe.edgeEnds.length;
      corners += form.recipe.triangles.length;
    }
  const parts = {
    positions: new Float32Array(3 * vertices),
    normals: new Int8Array(4 * vertices),
    triangles: new Uint32Array(corners),
    edgePositions: new Float32Array(3 * ends),
    edgeNormals: new Int8Array(8 * ends),
    pointPositions: new Float32Array(3 * points),
    pointRests: new Float32Array(3 * points),
    pointColours: new Uint8Array(4 * points),
    runs: new Uint32Array(RUN * order.length),
  };
  const stretches: Stretch[] = [];
  let [vertex, index, end, point] = [0, 0, 0, 0];
  for (const [place, { object, material, form }] of order.entries()) {
    const from = index;
    if ('points' in form) {
      writePoints(parts, point, form, origin, materials[material]);
      point += form.points.length;
    } else {
      const { recipe, positions, turn } = form;
      for (let i = 0; i < recipe.triangles.length; i++) parts.triangles[index + i] = vertex + recipe.triangles[i]!;
      writePlaces(parts.positions, 3 * vertex, positions, recipe.vertices, origin);
      writePlaces(parts.edgePositions, 3 * end, positions, recipe.edgeEnds, origin);
      writeNormals(parts.normals, 4 * vertex, turn ? turned(recipe.normals, turn) : recipe.normals);
      writeEdgeNormals(parts.edgeNormals, 8 * end, turn ? turned(recipe.edgeNormals, turn) : recipe.edgeNormals);
      vertex += recipe.vertices.length;
      index += recipe.triangles.length;
      end += recipe.edgeEnds.length;
    }
    parts.runs.set([object, material, vertex, index, end, point], RUN * place);
    const last = stretches.at(-1);
    if (last?.material === material) last.to = index;
    else stretches.push({ material, from, to: index });
  }
  return { parts, stretches };
}

/** How each view is to be read by others. */
const viewRules: Partial<Record<ViewName, ViewRules>> = {
  positions: { stride: 12 },
  normals: { stride: 4 },
  triangles: { isIndices: true },
  edgePositions: { stride: 12 },
  edgeNormals: { stride: 8 },
  pointPositions: { stride: 12 },
  pointRests: { stride: 12 },
  pointColours: { stride: 4 },
};

/** One primitive of triangles a material, one of lines and one of points. */
function addOwnMesh(
  document: TileDocument,
  { positions, edgePositions, pointPositions }: DecodedSolidTile,
  stretches: readonly Stretch[],
  views: Partial<Record<ViewName, number>>,
): void {
  const places = (view: ViewName, list: Float32Array): number =>
    document.accessor(views[view]!, {
      componentType: ComponentType.float,
      count: list.length / 3,
      type: 'VEC3',
      ...reachOf(list),
    });
  const normal = (view: ViewName, list: Float32Array, byteOffset = 0): number =>
    document.accessor(views[view]!, {
      componentType: ComponentType.byte,
      normalized: true,
      count: list.length / 3,
      type: 'VEC3',
      byteOffset,
    });
  const primitives: object[] = [];
  if (positions.length > 0) {
    const attributes = { POSITION: places('positions', positions), NORMAL: normal('normals', positions) };
    for (const { material, from, to } of stretches) {
      if (from === to) continue;
      const indices = document.accessor(views.triangles!, {
        componentType: ComponentType.unsignedInt,
        byteOffset: 4 * from,
        count: to - from,
        type: 'SCALAR',
      });
      primitives.push({ attributes, indices, mode: Mode.triangles, material });
    }
  }
  if (edgePositions.length > 0) {
    const attributes = {
      POSITION: places('edgePositions', edgePositions),
      _FACE: normal('edgeNormals', edgePositions),
      _OTHER: normal('edgeNormals', edgePositions, 4),
    };
    primitives.push({ attributes, mode: Mode.lines });
  }
  if (pointPositions.length > 0) {
    const count = pointPositions.length / 3;
    const attributes = {
      POSITION: places('pointPositions', pointPositions),
      _REST: document.accessor(views.pointRests!, { componentType: ComponentType.float, count, type: 'VEC3' }),
      COLOR_0: document.accessor(views.pointColours!, {
        componentType: ComponentType.unsignedByte,
        normalized: true,
        count,
        type: 'VEC4',
      }),
    };
    primitives.push({ attributes, mode: Mode.points });
  }
  if (primitives.length > 0) document.node(document.mesh(primitives));
}

/** A channel of sRGB, 0 … 255, as glTF wants it: linear light, 0 … 1 (IEC 61966-2-1). */
function linear(channel: number): number {
  const share = channel / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
}

/** Places of vertices about an origin, as glTF has them: Y up. */
function writePlaces(
  to: Float32Array,
  first: number,
  { block, start }: NumbersAt,
  vertices: Uint32Array,
  { x, y, z }: Vec3,
): void {
  for (let i = 0, at = first; i < vertices.length; i++, at += 3) {
    const from = start + 3 * vertices[i]!;
    to[at] = block[from]! - x;
    to[at + 1] = block[from + 2]! - z;
    to[at + 2] = -(block[from + 1]! - y);
  }
}

/** Points in single precision, and what that leaves out. */
function writePoints(
  { pointPositions, pointRests, pointColours }: DecodedSolidTile,
  first: number,
  { points, positions, colours }: PlacedPoints,
  origin: Vec3,
  material: Material | undefined,
): void {
  const { r, g, b } = material?.colour ?? { r: 128, g: 128, b: 128 };
  for (let i = 0; i < points.length; i++) {
    const from = 3 * points[i]!;
    const x = positions[from]! - origin.x;
    const y = positions[from + 2]! - origin.z;
    const z = -(positions[from + 1]! - origin.y);
    const at = 3 * (first + i);
    pointPositions[at] = x;
    pointPositions[at + 1] = y;
    pointPositions[at + 2] = z;
    pointRests[at] = x - pointPositions[at];
    pointRests[at + 1] = y - pointPositions[at + 1]!;
    pointRests[at + 2] = z - pointPositions[at + 2]!;
    const to = 4 * (first + i);
    pointColours[to] = colours ? colours[from]! : r;
    pointColours[to + 1] = colours ? colours[from + 1]! : g;
    pointColours[to + 2] = colours ? colours[from + 2]! : b;
    pointColours[to + 3] = 255;
  }
}

function writeNormals(to: Int8Array, first: number, from: Float32Array): void {
  for (let i = 0, at = first; i < from.length; i += 3, at += 4) {
    to[at] = Math.round(TILE_NORMAL * from[i]!);
    to[at + 1] = Math.round(TILE_NORMAL * from[i + 2]!);
    to[at + 2] = -Math.round(TILE_NORMAL * from[i + 1]!);
  }
}

/** The normals of both faces, the same at each end. */
function writeEdgeNormals(to: Int8Array, first: number, from: Float32Array): void {
  for (let i = 0, at = first; i < from.length; i += 6, at += 16)
    for (let face = 0; face < 2; face++) {
      const x = Math.round(TILE_NORMAL * from[i + 3 * face]!);
      const y = Math.round(TILE_NORMAL * from[i + 3 * face + 2]!);
      const z = -Math.round(TILE_NORMAL * from[i + 3 * face + 1]!);
      const one = at + 4 * face;
      const other = one + 8;
      to[one] = to[other] = x;
      to[one + 1] = to[other + 1] = y;
      to[one + 2] = to[other + 2] = z;
    }
}
