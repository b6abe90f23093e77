import type { Vec3 } from '../geometry/vec.ts';
import type { NumbersAt, PieceRecipe } from './mesh-recipe.ts';
import { PACKED_NORMAL, PLACE, layoutOf, type ShapeEntry } from './packed-shape.ts';
import type { PlacedForm } from './solid-items.ts';

/** A shape that stands at fewer places, or weighs less in triangles and edges, takes little more in each tile. */
const [LEAST_PLACES, LEAST_WEIGHT] = [4, 24];
/** A pack is closed when it has grown to this. */
const PACK_BYTES = 1 << 17;
/** A place may be off by so much of the farthest coordinate in the tile: a few units of the last place in single precision. */
const PRECISION = 2 ** -21;

/** A shape in a pack. */
export interface KeptShape extends ShapeEntry {
  /** Name of the pack's file. */
  readonly pack: string;
  /** Least and largest coordinates as they are written, Y up: of the vertices, and of the ends of edges. */
  readonly reach: Reach;
  readonly edgeReach: Reach;
}

export interface Reach {
  readonly min: number[];
  readonly max: number[];
}

/** A kept shape where it stands in a tile. */
export interface PlacedKept {
  readonly shape: KeptShape;
  /** As {@link PLACE} says, to places about the tile's origin. */
  readonly place: Float64Array;
}

interface Known {
  readonly shape: KeptShape;
  /** Its middle where it stands first, and two vertices far from each other there. */
  readonly middle: Vec3;
  readonly ends: readonly [number, number];
}

/** Writes shapes into packs, each once, as tiles ask for them. */
export class ShapePacks {
  readonly #known = new Map<PieceRecipe, Known | null>();
  #parts: Uint8Array[] = [];
  #bytes = 0;
  #packs = 0;
  #full: { readonly name: string; readonly bytes: Uint8Array<ArrayBuffer> }[] = [];

  /**
   * Where a form stands, if it is a shape that is kept in a pack.
   * @param origin of the tile
   * @returns null if the tile has to hold it itself: it stands too seldom, is too small, or stands there in another form
   */
  placed(form: PlacedForm, origin: Vec3): PlacedKept | null {
    const { recipe, shared } = form;
    if (!shared || shared.places < LEAST_PLACES) return null;
    if (recipe.triangles.length / 3 + recipe.edgeEnds.length / 2 < LEAST_WEIGHT) return null;
    let known = this.#known.get(recipe);
    if (known === undefined) this.#known.set(recipe, (known = this.#keep(recipe, shared.positions)));
    const place = known && placeOf(known, form, shared.positions, origin);
    return place && { shape: known!.shape, place };
  }

  /** Packs that have become full since the last time. */
  takeFull(): readonly { readonly name: string; readonly bytes: Uint8Array<ArrayBuffer> }[] {
    const full = this.#full;
    this.#full = [];
    return full;
  }

  /** No more shapes come. @returns the packs that are left */
  finish(): readonly { readonly name: string; readonly bytes: Uint8Array<ArrayBuffer> }[] {
    if (this.#bytes > 0) this.#close();
    return this.takeFull();
  }

  #keep(recipe: PieceRecipe, positions: NumbersAt): Known | null {
    const { vertices, normals, triangles, edgeEnds, edgeNormals } = recipe;
    const { middle, ends } = measured(positions, vertices.length > 0 ? vertices : edgeEnds);
    if (ends[0] === ends[1]) return null;
    const counts = { vertices: vertices.length, corners: triangles.length, ends: edgeEnds.length };
    const own = turned(vertices, positions, middle);
    const ownEdges = turned(edgeEnds, positions, middle);
    const ownEdgeNormals = new Int16Array(8 * counts.ends);
    for (let end = 0; end < counts.ends; end++)
      for (const side of [0, 1])
        writeNormal(ownEdgeNormals, 8 * end + 4 * side, edgeNormals, 6 * (end >> 1) + 3 * side);
    const ownNormals = new Int16Array(4 * counts.vertices);
    for (let vertex = 0; vertex < counts.vertices; vertex++) writeNormal(ownNormals, 4 * vertex, normals, 3 * vertex);
    const at = this.#bytes;
    const pack = `shapes${this.#packs}.bin`;
    for (const { buffer, byteOffset, byteLength } of [own, ownNormals, triangles, ownEdges, ownEdgeNormals])
      this.#parts.push(new Uint8Array(buffer, byteOffset, byteLength));
    this.#bytes += Object.values(layoutOf(counts)).reduce((sum, length) => sum + length, 0);
    if (this.#bytes >= PACK_BYTES) this.#close();
    return { shape: { pack, at, ...counts, reach: reachOf(own), edgeReach: reachOf(ownEdges) }, middle, ends };
  }

  #close(): void {
    const bytes = new Uint8Array(this.#bytes);
    let at = 0;
    for (const part of this.#parts) {
      bytes.set(part, at);
      at += part.length;
    }
    this.#full.push({ name: `shapes${this.#packs++}.bin`, bytes });
    this.#parts = [];
    this.#bytes = 0;
  }
}

/** How a shape got from where it stands first to where it stands now; null if that isn't all that has changed. */
function placeOf(
  { middle, ends, shape }: Known,
  form: PlacedForm,
  first: NumbersAt,
  origin: Vec3,
): Float64Array | null {
  const { recipe, positions, turn } = form;
  const scale = between(positions, ...ends) / between(first, ...ends);
  if (!(scale > 0 && Number.isFinite(scale))) return null;
  const place = new Float64Array(PLACE);
  for (let i = 0; i < 9; i++) place[i] = scale * (turn ? turn[i]! : i % 4 === 0 ? 1 : 0);
  const [a, b, c, d, e, f, g, h, k] = place as unknown as number[] as Nine;
  const [from, to] = [first.block, positions.block];
  const fromAt = first.start + 3 * ends[0];
  const toAt = positions.start + 3 * ends[0];
  const [px, py, pz] = [from[fromAt]! - middle.x, from[fromAt + 1]! - middle.y, from[fromAt + 2]! - middle.z];
  const x0 = (place[9] = to[toAt]! - origin.x - (a * px + b * py + c * pz));
  const y0 = (place[10] = to[toAt + 1]! - origin.y - (d * px + e * py + f * pz));
  const z0 = (place[11] = to[toAt + 2]! - origin.z - (g * px + h * py + k * pz));
  let [off, reach] = [0, 0];
  for (const list of [recipe.vertices, recipe.edgeEnds])
    for (let i = 0; i < list.length; i++) {
      const at = first.start + 3 * list[i]!;
      const own = positions.start + 3 * list[i]!;
      const x = from[at]! - middle.x;
      const y = from[at + 1]! - middle.y;
      const z = from[at + 2]! - middle.z;
      const wx = to[own]! - origin.x;
      const wy = to[own + 1]! - origin.y;
      const wz = to[own + 2]! - origin.z;
      const offX = Math.abs(a * x + b * y + c * z + x0 - wx);
      const offY = Math.abs(d * x + e * y + f * z + y0 - wy);
      const offZ = Math.abs(g * x + h * y + k * z + z0 - wz);
      if (offX > off) off = offX;
      if (offY > off) off = offY;
      if (offZ > off) off = offZ;
      if (Math.abs(wx) > reach) reach = Math.abs(wx);
      if (Math.abs(wy) > reach) reach = Math.abs(wy);
      if (Math.abs(wz) > reach) reach = Math.abs(wz);
    }
  const size = Math.max(...shape.reach.max, ...shape.edgeReach.max) * scale;
  return off <= PRECISION * Math.max(reach, size) ? place : null;
}

type Nine = [number, number, number, number, number, number, number, number, number];

/** The middle of the box of some vertices, and two of them far from each other. */
function measured(
  { block, start }: NumbersAt,
  vertices: Uint32Array,
): { readonly middle: Vec3; readonly ends: readonly [number, number] } {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const vertex of vertices)
    for (let axis = 0; axis < 3; axis++) {
      const value = block[start + 3 * vertex + axis]!;
      low[axis] = Math.min(low[axis]!, value);
      high[axis] = Math.max(high[axis]!, value);
    }
  const [x, y, z] = low.map((value, axis) => (value + high[axis]!) / 2) as [number, number, number];
  const first = vertices[0]!;
  let [far, most] = [first, 0];
  for (const vertex of vertices) {
    const distance = between({ block, start }, first, vertex);
    if (distance > most) [far, most] = [vertex, distance];
  }
  return { middle: { x, y, z }, ends: [first, far] };
}

function between({ block, start }: NumbersAt, a: number, b: number): number {
  const way = (axis: number): number => block[start + 3 * b + axis]! - block[start + 3 * a + axis]!;
  return Math.hypot(way(0), way(1), way(2));
}

/** Y up, about a middle. */
function turned(vertices: Uint32Array, { block, start }: NumbersAt, middle: Vec3): Float32Array<ArrayBuffer> {
  const own = new Float32Array(3 * vertices.length);
  for (let i = 0; i < vertices.length; i++) {
    const at = start + 3 * vertices[i]!;
    own[3 * i] = block[at]! - middle.x;
    own[3 * i + 1] = block[at + 2]! - middle.z;
    own[3 * i + 2] = -(block[at + 1]! - middle.y);
  }
  return own;
}

function writeNormal(to: Int16Array, at: number, from: Float32Array, i: number): void {
  to[at] = Math.round(PACKED_NORMAL * from[i]!);
  to[at + 1] = Math.round(PACKED_NORMAL * from[i + 2]!);
  to[at + 2] = -Math.round(PACKED_NORMAL * from[i + 1]!);
}

/** Least and largest of x, y, z triples. */
export function reachOf(positions: Float32Array): Reach {
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
