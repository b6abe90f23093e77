import fc from 'fast-check';
import { expect, it } from 'vitest';
import { HullBuilder, convexHull } from './hull.ts';

const coordinate = fc.double({ min: 7.2e9, max: 7.2e9 + 1e5, noNaN: true });
const reach = (points: ArrayLike<number>, dx: number, dy: number): number => {
  let best = -Infinity;
  for (let i = 0; i < points.length; i += 2)
    best = Math.max(best, (points[i]! - 7.2e9) * dx + (points[i + 1]! - 7.2e9) * dy);
  return best;
};

it('a hull reaches as far as all its points, in every direction', () => {
  fc.assert(
    fc.property(
      fc.array(coordinate, { minLength: 2, maxLength: 400 }),
      fc.double({ min: 0, max: 7, noNaN: true }),
      (list, angle) => {
        const points = list.slice(0, list.length & ~1);
        const hull = convexHull(points);
        expect(reach(hull, Math.cos(angle), Math.sin(angle))).toBeCloseTo(
          reach(points, Math.cos(angle), Math.sin(angle)),
          5,
        );
      },
    ),
  );
});

it('a hull built from a stream is the hull of all', () => {
  const builder = new HullBuilder();
  const all: number[] = [];
  for (let i = 0; i < 30_000; i++) {
    const point = [Math.sin(i * 12.9898) * 1e5 + i, Math.cos(i * 78.233) * 1e5] as const;
    all.push(...point);
    builder.add(...point);
  }
  expect([...builder.hull()]).toEqual([...convexHull(all)]);
});

it('one point, two points and repeats stay what they are', () => {
  expect([...convexHull([3, 4])]).toEqual([3, 4]);
  expect([...convexHull([3, 4, 3, 4])]).toEqual([3, 4]);
  expect(convexHull([0, 0, 5, 5, 2, 2]).length).toBe(4);
});
