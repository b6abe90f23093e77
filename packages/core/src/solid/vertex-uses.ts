import type { PieceRecipe } from './mesh-recipe.ts';

/** In how many of its pieces each vertex of a mesh is. */
export class VertexUses {
  readonly #inAll: Uint16Array;
  /** The same of some pieces, and the last of them that has a vertex; all 0 between two questions. */
  readonly #inSome: Uint16Array;
  readonly #lastIn: Uint32Array;

  /** @param pieces all of the mesh */
  constructor(pieces: readonly PieceRecipe[]) {
    let most = 0;
    for (const { vertices } of pieces)
      for (let i = 0; i < vertices.length; i++) if (vertices[i]! > most) most = vertices[i]!;
    this.#inSome = new Uint16Array(most + 1);
    this.#lastIn = new Uint32Array(most + 1);
    this.#count(pieces);
    this.#inAll = this.#inSome.slice();
    this.#forget(pieces);
  }

  /**
   * @param vertices of some pieces
   * @returns 1 for each of these vertices that other pieces have, too
   */
  sharedWithOthers(some: readonly PieceRecipe[], vertices: Uint32Array): Uint8Array {
    this.#count(some);
    const shared = new Uint8Array(vertices.length);
    for (let i = 0; i < vertices.length; i++) {
      const vertex = vertices[i]!;
      if (this.#inAll[vertex]! > this.#inSome[vertex]!) shared[i] = 1;
    }
    this.#forget(some);
    return shared;
  }

  #count(pieces: readonly PieceRecipe[]): void {
    for (const [piece, { vertices }] of pieces.entries())
      for (let i = 0; i < vertices.length; i++) {
        const vertex = vertices[i]!;
        if (this.#lastIn[vertex] === piece + 1) continue; // it has several normals
        this.#lastIn[vertex] = piece + 1;
        this.#inSome[vertex]!++;
      }
  }

  #forget(pieces: readonly PieceRecipe[]): void {
    for (const { vertices } of pieces)
      for (let i = 0; i < vertices.length; i++) this.#inSome[vertices[i]!] = this.#lastIn[vertices[i]!] = 0;
  }
}
