import { areasOf } from './coarse-mesh.ts';
import type { NumbersAt, PieceRecipe } from './mesh-recipe.ts';

/** The parts of a mesh that hang together: bars of a grating, bolts of a flange. */
export class MeshComponents {
  /** Of each vertex of the mesh one that stands for its component. */
  readonly #rootOf: Uint32Array;
  /** Longest side of each component's box, by the vertex that stands for it. Drawing units. */
  readonly #sizeOf: Float64Array;
  /** Area of each component, likewise. */
  readonly #areaOf: Float64Array;

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
    this.#areaOf = new Float64Array(most + 1);
    for (const piece of pieces) {
      const areas = areasOf(piece, positions);
      for (let face = 0; face < areas.length; face++) this.#areaOf[this.#rootAt(piece, face)]! += areas[face]!;
    }
  }

  /**
   * Those triangles of a form of the mesh that belong to components longer and wider than told. The width is that of
   * a ribbon as long as the component and of half its area: of a bar the sum of its sides.
   */
  ofLarger(form: PieceRecipe, length: number, width: number): PieceRecipe {
    return this.kept(form, (root) => {
      const size = this.#sizeOf[root]!;
      return size > length && this.#areaOf[root]! > 2 * size * width;
    });
  }

  /** A piece of the mesh without its components that are smaller than a size. */
  withoutSmaller(piece: PieceRecipe, size: number): PieceRecipe {
    return this.kept(piece, (root) => this.#sizeOf[root]! >= size);
  }

  /** The mesh's vertices in a piece by component. @returns the vertex that stands for each, and all of them */
  verticesOf({ vertices, triangles }: PieceRecipe): ReadonlyMap<number, number[]> {
    const components = new Map<number, number[]>();
    const taken = new Set<number>();
    for (let corner = 0; corner < triangles.length; corner++) {
      const vertex = vertices[triangles[corner]!]!;
      if (taken.has(vertex)) continue;
      taken.add(vertex);
      const root = this.#root(vertex);
      const own = components.get(root);
      if (own) own.push(vertex);
      else components.set(root, [vertex]);
    }
    return components;
  }

  /** The triangles of some components, by the vertices that stand for these. */
  kept(piece: PieceRecipe, isKept: (root: number) => boolean): PieceRecipe {
    const triangles = piece.triangles.filter((_, corner) => isKept(this.#rootAt(piece, Math.floor(corner / 3))));
    return triangles.length < piece.triangles.length ? { ...piece, triangles } : piece;
  }

  #rootAt({ vertices, triangles }: PieceRecipe, face: number): number {
    return this.#root(vertices[triangles[3 * face]!]!);
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
