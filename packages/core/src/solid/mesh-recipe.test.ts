import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recipeOf, type PieceRecipe } from './mesh-recipe.ts';

/** Some vertices on a coarse grid, and triangles between them. */
const mesh = fc
  .array(fc.integer({ min: 0, max: 4 }), { minLength: 9, maxLength: 90 })
  .map((numbers) => Float64Array.from(numbers.slice(0, numbers.length - (numbers.length % 3))))
  .chain((positions) =>
    fc
      .array(fc.integer({ min: 0, max: positions.length / 3 - 1 }), { minLength: 3, maxLength: 120 })
      .map((corners) => ({
        positions,
        triangles: Uint32Array.from(corners.slice(0, corners.length - (corners.length % 3))),
      })),
  );
/** Too large for arrays that are kept between meshes. */
const sheet = {
  positions: Float64Array.from({ length: 3 * 2601 }, (_, i) => [Math.floor(i / 3 / 51), ((i / 3) % 51) | 0, 0][i % 3]!),
  triangles: Uint32Array.from(
    Array.from({ length: 2500 }, (_, cell) => {
      const at = 51 * Math.floor(cell / 50) + (cell % 50);
      return [at, at + 1, at + 51, at + 1, at + 52, at + 51];
    }).flat(),
  ),
};
const copyOf = (pieces: readonly PieceRecipe[]): PieceRecipe[] => structuredClone([...pieces]);

describe('how meshes are drawn', () => {
  it('is the same whatever mesh came before, and stays whatever comes after', () => {
    fc.assert(
      fc.property(mesh, mesh, (first, second) => {
        const alone = recipeOf(first);
        const kept = copyOf(alone);
        recipeOf(second);
        recipeOf(sheet);
        expect(alone).toEqual(kept);
        expect(recipeOf(first)).toEqual(kept);
      }),
      { numRuns: 60 },
    );
  });

  it('takes each triangle once, those without area not at all', () => {
    fc.assert(
      fc.property(mesh, ({ positions, triangles }) => {
        const drawn = recipeOf({ positions, triangles }).flatMap((piece) =>
          Array.from({ length: piece.triangles.length / 3 }, (_, t) =>
            [0, 1, 2].map((k) => placeOf(positions, piece.vertices[piece.triangles[3 * t + k]!]!)),
          ),
        );
        expect(new Set(drawn.map(turnedFirst)).size).toBe(drawn.length);
        const wanted = new Set<string>();
        for (let t = 0; t < triangles.length; t += 3) {
          const corners = [0, 1, 2].map((k) => placeOf(positions, triangles[t + k]!));
          if (areaOf(corners) > 0) wanted.add(turnedFirst(corners));
        }
        expect(new Set(drawn.map(turnedFirst))).toEqual(wanted);
      }),
    );
  });
});

const placeOf = (positions: Float64Array, vertex: number): string =>
  positions.slice(3 * vertex, 3 * vertex + 3).join(' ');

/** A triangle's corners in their order, the least of them first. */
function turnedFirst(corners: readonly string[]): string {
  const turns = corners.map((_, k) => [...corners.slice(k), ...corners.slice(0, k)].join('|'));
  return turns.sort()[0]!;
}

function areaOf(corners: readonly string[]): number {
  const [a, b, c] = corners.map((corner) => corner.split(' ').map(Number)) as [number[], number[], number[]];
  const [u, v] = [b.map((value, k) => value - a[k]!), c.map((value, k) => value - a[k]!)] as [number[], number[]];
  return Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!);
}
