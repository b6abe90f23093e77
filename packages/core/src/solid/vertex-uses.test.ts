import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { PieceRecipe } from './mesh-recipe.ts';
import { VertexUses } from './vertex-uses.ts';

const pieceOf = (vertices: readonly number[]): PieceRecipe => ({
  vertices: Uint32Array.from(vertices),
  normals: new Float32Array(3 * vertices.length),
  triangles: new Uint32Array(0),
  edgeEnds: new Uint32Array(0),
  edgeNormals: new Float32Array(0),
});

it('vertices of some pieces that others have, too, are found whatever was asked before', () => {
  // a vertex may be in a piece several times, once a normal
  const vertices = fc.array(fc.nat(30), { maxLength: 20 });
  const questions = fc.array(fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }), { minLength: 1, maxLength: 4 });
  fc.assert(
    fc.property(fc.array(vertices, { minLength: 6, maxLength: 6 }), questions, (lists, asked) => {
      const pieces = lists.map(pieceOf);
      const uses = new VertexUses(pieces);
      for (const isSome of asked) {
        const some = pieces.filter((_, i) => isSome[i]);
        const others = new Set(lists.filter((_, i) => !isSome[i]).flat());
        const own = lists.filter((_, i) => isSome[i]).flat();
        const shared = uses.sharedWithOthers(some, Uint32Array.from(own));
        expect([...shared]).toEqual(own.map((vertex) => (others.has(vertex) ? 1 : 0)));
      }
    }),
  );
});
