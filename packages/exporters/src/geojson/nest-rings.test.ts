import fc from 'fast-check';
import { expect, it } from 'vitest';
import { nestRings } from './nest-rings.ts';

const square = (x: number, y: number, half: number, isClockwise = false): number[] => {
  const corners = [
    [x - half, y - half],
    [x + half, y - half],
    [x + half, y + half],
    [x - half, y + half],
  ];
  return (isClockwise ? corners.reverse() : corners).flat();
};
const area = (ring: readonly number[]): number => {
  let twice = 0;
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    twice += ring[i]! * ring[j + 1]! - ring[j]! * ring[i + 1]!;
  }
  return twice / 2;
};

it('puts holes into the ring that holds them most closely, and islands in holes beside it', () => {
  const [outer, hole, island, apart] = [square(0, 0, 10), square(0, 0, 6), square(0, 0, 2), square(50, 0, 3)];
  const polygons = nestRings([island, hole, apart, outer]);
  expect(polygons.map((rings) => rings.map((ring) => Math.abs(area(ring)))).sort((a, b) => a[0]! - b[0]!)).toEqual([
    [16],
    [36],
    [400, 144],
  ]);
});

it('turns outer rings anticlockwise and holes clockwise, whichever way they came, and loses none', () => {
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 1, maxLength: 8 }), fc.boolean(), (ways, isFar) => {
      const [x, y] = isFar ? [4.1e8, 7.2e9] : [0, 0];
      const rings = ways.map((isClockwise, k) => square(x, y, 10 * (k + 1), isClockwise));
      const polygons = nestRings(rings);
      expect(polygons.flat()).toHaveLength(rings.length);
      for (const [outer, ...holes] of polygons) {
        const about = (ring: readonly number[]) => area(ring.map((value, k) => value - (k % 2 === 0 ? x : y)));
        expect(about(outer!)).toBeGreaterThan(0);
        for (const hole of holes) expect(about(hole)).toBeLessThan(0);
      }
    }),
  );
});

it('leaves out what is no ring', () => {
  expect(nestRings([[0, 0, 1, 1], []])).toEqual([]);
});
