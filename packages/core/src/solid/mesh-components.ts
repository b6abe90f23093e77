import { areasOf } from './coarse-mesh.ts';
import type { NumbersAt, PieceRecipe } from './mesh-recipe.ts';

/** The parts of a mesh that hang together: bars of a grating, bolts of a flange. */
export class MeshComponents {
  /** Of each vertex of the mesh one that stands for its component. */
  readonly #rootOf: Uint32Array;
  /** Longest side of each component's box, by the vertex that stands for it. Drawing units. */
  readonly #sizeOf: Float64Array;

  /** @param pieces of one mesh */
  constructor(
    pieces: readonly PieceRecipe[],
    private readonly positions: NumbersAt,
  ) {
    let most = 0;
    for (const { vertices } of pieces) for (const vertex of vertices) if (vertex > most) most = vertex;
    this.#rootOf = Uint32Array.from({ length: most + 1 }, (_, vertex) => vertex);
    for (const { vertices, triangles } of pieces)
      for (let t = 0; t < triangles.length; t += 3)
        for (let k = 1; k < 3; k++) this.#join(vertices[triangles[t]!]!, vertices[triangles[t + k]!]!);
    this.#sizeOf = this.#sizes(pieces);
  }

  /** Area of those triangles of a form of the mesh that belong to components larger than a size. */
  areaOfLarger(form: PieceRecipe, size: number): number {
    const areas = areasOf(form, this.positions);
    let area = 0;
    for (let face = 0; face < areas.length; face++)
      if (this.#sizeOf[this.#root(form.vertices[form.triangles[3 * face]!]!)]! > size) area += areas[face]!;
    return area;
  }

  #root(vertex: number): number {
    let at = vertex;
    while (this.#rootOf[at] !== at) {
      this.#rootOf[at] = this.#rootOf[this.#rootOf[at]!]!;
      at = this.#rootOf[at]!;
    }
    return at;
  }

  #join(a: number, b: number): void {
    this.#rootOf[this.#root(a)] = this.#root(b);
  }

  #sizes(pieces: readonly PieceRecipe[]): Float64Array {
    const { block, start } = this.positions;
    const count = this.#rootOf.length;
    const low = new Float64Array(3 * count).fill(Infinity);
    const high = new Float64Array(3 * count).fill(-Infinity);
    for (const { vertices } of pieces)
      for (const vertex of vertices) {
        const root = 3 * this.#root(vertex);
        for (let axis = 0; axis < 3; axis++) {
          const value = block[start + 3 * vertex + axis]!;
          if (value < low[root + axis]!) low[root + axis] = value;
          if (value > high[root + axis]!) high[root + axis] = value;
        }
      }
    const sizes = new Float64Array(count);
    for (let vertex = 0; vertex < count; vertex++)
      for (let at = 3 * vertex; at < 3 * vertex + 3; at++)
        if (high[at]! - low[at]! > sizes[vertex]!) sizes[vertex] = high[at]! - low[at]!;
    return sizes;
  }
}
