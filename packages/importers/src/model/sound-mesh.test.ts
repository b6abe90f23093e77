import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { soundMesh } from './sound-mesh.ts';

const coordinate = fc.oneof(
  { weight: 9, arbitrary: fc.double({ noNaN: true, min: -1e9, max: 1e9 }) },
  fc.constantFrom(NaN, Infinity, -Infinity),
);

describe('a mesh that may be broken', () => {
  it('keeps exactly the triangles that can be drawn, at the same places', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 1, maxLength: 12 }),
        fc.array(fc.tuple(fc.nat(14), fc.nat(14), fc.nat(14)), { maxLength: 12 }),
        (vertices, triangles) => {
          const sound = soundMesh(Float64Array.from(vertices.flat()), Uint32Array.from(triangles.flat()));
          const placesOf = (positions: ArrayLike<number>, corners: readonly number[]): number[][] =>
            corners.map((corner) => [0, 1, 2].map((axis) => positions[3 * corner + axis]!));
          const expected = triangles.filter((corners) =>
            corners.every((corner) => vertices[corner]?.every(Number.isFinite) === true),
          );
          const found = Array.from({ length: sound.triangles.length / 3 }, (_, i) =>
            placesOf(sound.positions, [...sound.triangles.subarray(3 * i, 3 * i + 3)]),
          );
          expect(found).toEqual(expected.map((corners) => placesOf(vertices.flat(), corners)));
          expect(sound.leftOut).toBe(triangles.length - expected.length);
          expect(expected.length === 0 || sound.positions.every(Number.isFinite)).toBe(true);
        },
      ),
    );
  });

  it('comes back as it is where nothing is wrong', () => {
    const [positions, triangles] = [Float64Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), Uint32Array.of(0, 1, 2)];
    expect(soundMesh(positions, triangles)).toEqual({ positions, triangles, leftOut: 0 });
    expect(soundMesh(positions, triangles).positions).toBe(positions);
  });
});
