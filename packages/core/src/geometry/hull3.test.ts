import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HullBuilder3 } from './hull-builder3.ts';
import { convexHull3 } from './hull3.ts';
import { seededRandom } from './random.ts';

/** How far points reach in a direction. */
function reach(points: ArrayLike<number>, [x, y, z]: readonly [number, number, number]): number {
  let most = -Infinity;
  for (let i = 0; i < points.length; i += 3)
    most = Math.max(most, points[i]! * x + points[i + 1]! * y + points[i + 2]! * z);
  return most;
}
const direction = fc
  .tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), fc.constant(0.37))
  .map(([x, y, z]): [number, number, number] => {
    const length = Math.hypot(x, y, z);
    return [x / length, y / length, z / length];
  });
const coordinate = fc.integer({ min: -40, max: 40 }).map((value) => value * 12.5);
const cloud = fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 1, maxLength: 120 });

describe('the hull of a cloud', () => {
  it('reaches as far as the cloud in every direction, far from the origin too', () => {
    fc.assert(
      fc.property(cloud, direction, fc.constantFrom(0, 7.2e9), (points, way, away) => {
        const flat = points.flatMap(([x, y, z]) => [x + away, y, z]);
        const [all, hull] = [reach(flat, way), reach(convexHull3(flat), way)];
        expect(Math.abs(all - hull)).toBeLessThan(1e-3 + Math.abs(all) * 1e-15);
      }),
      { numRuns: 300 },
    );
  });

  it('keeps the outline of points in a plane, and the ends of points on a line', () => {
    fc.assert(
      fc.property(cloud, direction, fc.constantFrom('plane', 'line', 'slope'), (points, way, kind) => {
        const flat = points.flatMap(([x, y]) =>
          kind === 'plane' ? [x, y, 7] : kind === 'line' ? [x, 2 * x, 3 * x] : [x, y, x + 2 * y],
        );
        expect(Math.abs(reach(flat, way) - reach(convexHull3(flat), way))).toBeLessThan(1e-3);
      }),
    );
  });

  it('drops what can never be extreme', () => {
    const cube = [0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].flatMap((z) => [x, y, z])));
    expect(convexHull3([...cube, 0.5, 0.5, 0.5, 0.25, 0.5, 0.75]).length).toBe(24);
  });

  it('is right for a rough ball, of which many points are corners, all at once, streaming past and in parts', () => {
    const random = seededRandom(3);
    const all: number[] = [];
    const hull = new HullBuilder3();
    for (let i = 0; i < 12_000; i++) {
      const [turn, height, radius] = [random() * 7, 2 * random() - 1, 1000 * (1 + 0.02 * random())];
      const level = radius * Math.sqrt(1 - height * height);
      const point = [7.2e9 + level * Math.cos(turn), level * Math.sin(turn), radius * height] as const;
      all.push(...point);
      hull.add(...point);
    }
    const corners = convexHull3(all);
    expect(corners.length).toBeGreaterThan(3 * 300);
    expect(corners.length).toBeLessThan(3 * 6000);
    const inParts = new HullBuilder3();
    for (const part of [all.slice(0, 15_000), all.slice(15_000)]) inParts.addCorners(convexHull3(part));
    for (const found of [corners, hull.hull(), inParts.hull()])
      for (let k = 0; k < 200; k++) {
        const tilt = Math.acos(1 - (2 * k + 1) / 200);
        const way = [Math.cos(k) * Math.sin(tilt), Math.sin(k) * Math.sin(tilt), Math.cos(tilt)] as const;
        expect(Math.abs(reach(all, way) - reach(found, way))).toBeLessThan(1e-3);
      }
  });

  it('is the same when the points stream past', () => {
    const hull = new HullBuilder3();
    const all: number[] = [];
    // a sphere with a ring: many corners, and many points inside
    for (let i = 0; i < 9000; i++) {
      const [a, b, r] = [i * 2.399963, Math.acos(1 - (2 * (i % 500) + 1) / 500), i % 3 === 0 ? 1000 : 400];
      const point = [r * Math.cos(a) * Math.sin(b), r * Math.sin(a) * Math.sin(b), r * Math.cos(b)] as const;
      hull.add(...point);
      all.push(...point);
    }
    for (let k = 0; k < 40; k++) {
      const way = [Math.cos(k), Math.sin(k) * Math.cos(3 * k), Math.sin(k) * Math.sin(3 * k)] as const;
      expect(Math.abs(reach(all, way) - reach(hull.hull(), way))).toBeLessThan(1e-3);
    }
    expect(hull.contains([-1, -1, -1, 1, 1, 1])).toBe(true);
    expect(hull.contains([-1, -1, -1, 5000, 1, 1])).toBe(false);
  });
});
