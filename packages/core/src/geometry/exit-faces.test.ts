import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ExitFaces, type ExitFace } from './exit-faces.ts';

type Vector = [number, number, number];
const coordinate = fc.double({ min: -2, max: 2, noNaN: true });
const place = fc.tuple(coordinate, coordinate, coordinate);

/** A body of many faces: the planes that touch a ball at the corners of a lattice of directions, its pieces triangles. */
function faceted(squash: Vector): ExitFace[] {
  const [up, round] = [7, 12];
  const at = (row: number, column: number): Vector => {
    const [tilt, turn] = [(Math.PI * row) / up, (2 * Math.PI * column) / round];
    const [x, y, z] = [Math.sin(tilt) * Math.cos(turn), Math.sin(tilt) * Math.sin(turn), Math.cos(tilt)];
    return [x * squash[0], y * squash[1], z * squash[2]];
  };
  const faces: ExitFace[] = [];
  for (let row = 0; row < up; row++)
    for (let column = 0; column < round; column++)
      for (const corners of [
        [at(row, column), at(row + 1, column), at(row + 1, column + 1)],
        [at(row, column), at(row + 1, column + 1), at(row, column + 1)],
      ] as const) {
        const [a, b, c] = corners;
        const u = b.map((value, k) => value - a[k]!) as Vector;
        const v = c.map((value, k) => value - a[k]!) as Vector;
        const n: Vector = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        const length = Math.hypot(...n);
        if (length < 1e-9) continue; // at the poles two corners are one
        const normal = n.map((value) => value / length) as Vector;
        faces.push({ normal, corners, reach: normal[0] * a[0] + normal[1] * a[1] + normal[2] * a[2] });
      }
  return faces;
}

describe('the faces that a ray can leave a body through', () => {
  it('tell the same as all faces do, for round and for flat bodies, from any middle inside', () => {
    fc.assert(
      fc.property(
        place,
        fc.constantFrom<Vector>([1, 1, 1], [2, 1, 0.4], [1, 0.15, 1.5]),
        fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -0.3, max: 0.3, noNaN: true }))),
        ([x, y, z], squash, off) => {
          const faces = faceted(squash);
          const middle = squash.map((value, k) => value * off[k]!) as Vector;
          const exits = ExitFaces.of(middle, faces);
          if (!exits) return;
          const margin = Math.max(...faces.map(({ normal: n, reach }) => n[0] * x + n[1] * y + n[2] * z - reach));
          if (Math.abs(margin) > 1e-9) expect(exits.isInside(x, y, z)).toBe(margin < 0);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('refuse a middle that lies outside', () => {
    expect(ExitFaces.of([3, 0, 0], faceted([1, 1, 1]))).toBeNull();
  });
});
