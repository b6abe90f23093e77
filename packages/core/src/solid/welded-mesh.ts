import { Scratch } from '../geometry/scratch.ts';

/** Triangles whose corners at one place are one vertex: only so can be told which faces meet at an edge. */
export interface WeldedMesh {
  /** x, y, z triples. */
  readonly positions: Float64Array;
  /** Three vertices a triangle; none without area, none twice. */
  readonly triangles: Uint32Array;
  /** Unit normal of each triangle. */
  readonly normals: Float64Array;
  /** Which triangle of the source each of them is. */
  readonly triangleOf: Uint32Array;
  /** The vertex that each vertex of the source became. */
  readonly vertexOf: Uint32Array;
}

const scratch = {
  positions: new Scratch(Float64Array),
  triangles: new Scratch(Uint32Array),
  normals: new Scratch(Float64Array),
  triangleOf: new Scratch(Uint32Array),
  cells: new Scratch(Float64Array),
  values: new Scratch(Int32Array),
};

/** So near to each other vertices are one, as a share of the mesh's size: single precision far from the origin rounds so. */
const WELD_SHARE = 2e-7;

/**
 * Joins vertices at the same place and leaves out triangles that have no area or were there already.
 * @param positions x, y, z triples
 * @param triangles three vertices each
 */
export function weld(positions: ArrayLike<number>, triangles: ArrayLike<number>): WeldedMesh {
  let [lowX, lowY, lowZ, highX, highY, highZ] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = 0; i + 2 < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    if (x < lowX) lowX = x;
    if (x > highX) highX = x;
    if (y < lowY) lowY = y;
    if (y > highY) highY = y;
    if (z < lowZ) lowZ = z;
    if (z > highZ) highZ = z;
  }
  const cell = Math.max(highX - lowX, highY - lowY, highZ - lowZ, Number.MIN_VALUE) * WELD_SHARE;
  const count = Math.floor(positions.length / 3);
  const table = new CellTable(count);
  const vertexOf = new Uint32Array(count);
  const kept = scratch.positions.take(3 * count);
  let vertices = 0;
  for (let vertex = 0; vertex < count; vertex++) {
    const [x, y, z] = [positions[3 * vertex]!, positions[3 * vertex + 1]!, positions[3 * vertex + 2]!];
    const known = table.findOrAdd(
      Math.round((x - lowX) / cell),
      Math.round((y - lowY) / cell),
      Math.round((z - lowZ) / cell),
      vertices,
    );
    if (known === vertices) {
      kept[3 * vertices] = x;
      kept[3 * vertices + 1] = y;
      kept[3 * vertices + 2] = z;
      vertices++;
    }
    vertexOf[vertex] = known;
  }
  const met = new CellTable(triangles.length / 3);
  const whole = scratch.triangles.take(triangles.length);
  const normals = scratch.normals.take(triangles.length);
  const triangleOf = scratch.triangleOf.take(triangles.length / 3);
  let used = 0;
  for (let t = 0; t + 2 < triangles.length; t += 3) {
    const [a, b, c] = [vertexOf[triangles[t]!]!, vertexOf[triangles[t + 1]!]!, vertexOf[triangles[t + 2]!]!];
    if (a === b || b === c || a === c || isMet(met, a, b, c, t)) continue;
    if (!writeNormal(kept, a, b, c, normals, used)) continue;
    triangleOf[used / 3] = t / 3;
    whole[used] = a;
    whole[used + 1] = b;
    whole[used + 2] = c;
    used += 3;
  }
  return {
    positions: kept.slice(0, 3 * vertices),
    triangles: whole.slice(0, used),
    normals: normals.slice(0, used),
    triangleOf: triangleOf.slice(0, used / 3),
    vertexOf,
  };
}

/** Whether a triangle that is turned the same way was there before. @param t its own number, larger than those before */
function isMet(met: CellTable, a: number, b: number, c: number, t: number): boolean {
  const known =
    a < b && a < c ? met.findOrAdd(a, b, c, t) : b < c ? met.findOrAdd(b, c, a, t) : met.findOrAdd(c, a, b, t);
  return known !== t;
}

/** Writes a triangle's unit normal. @returns false if its corners lie on a line */
function writeNormal(p: Float64Array, a: number, b: number, c: number, to: Float64Array, at: number): boolean {
  const [ax, ay, az] = [p[3 * a]!, p[3 * a + 1]!, p[3 * a + 2]!];
  const [ux, uy, uz] = [p[3 * b]! - ax, p[3 * b + 1]! - ay, p[3 * b + 2]! - az];
  const [vx, vy, vz] = [p[3 * c]! - ax, p[3 * c + 1]! - ay, p[3 * c + 2]! - az];
  const x = uy * vz - uz * vy;
  const y = uz * vx - ux * vz;
  const z = ux * vy - uy * vx;
  const length = Math.sqrt(x * x + y * y + z * z);
  if (!(length > 0)) return false;
  to[at] = x / length;
  to[at + 1] = y / length;
  to[at + 2] = z / length;
  return true;
}

/**
 * Three whole numbers to one, by open addressing: a map of strings is ten times slower. A table is good until the next one
 * is made.
 */
class CellTable {
  readonly #mask: number;
  readonly #cells: Float64Array;
  readonly #values: Int32Array;

  constructor(expected: number) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(2 * expected, 16)));
    this.#mask = size - 1;
    this.#cells = scratch.cells.take(3 * size);
    this.#values = scratch.values.take(size).fill(-1, 0, size);
  }

  findOrAdd(i: number, j: number, k: number, value: number): number {
    let at = (Math.imul(i, 73856093) ^ Math.imul(j, 19349663) ^ Math.imul(k, 83492791)) & this.#mask;
    for (; this.#values[at]! >= 0; at = (at + 1) & this.#mask) {
      if (this.#cells[3 * at] === i && this.#cells[3 * at + 1] === j && this.#cells[3 * at + 2] === k)
        return this.#values[at]!;
    }
    this.#cells[3 * at] = i;
    this.#cells[3 * at + 1] = j;
    this.#cells[3 * at + 2] = k;
    this.#values[at] = value;
    return value;
  }
}
