import fc from 'fast-check';
import { expect, it } from 'vitest';
import { SegmentGrid } from './segment-grid.ts';

const number = fc.integer({ min: -1000, max: 1000 });
const segments = fc.array(fc.tuple(number, number, number, number), { minLength: 1, maxLength: 60 });

/** Of a place from a segment. */
function away([x0, y0, x1, y1]: readonly number[], x: number, y: number): number {
  const [ux, uy] = [x1! - x0!, y1! - y0!];
  const square = ux * ux + uy * uy;
  const share = square > 0 ? Math.min(Math.max(((x - x0!) * ux + (y - y0!) * uy) / square, 0), 1) : 0;
  return Math.hypot(x0! + share * ux - x, y0! + share * uy - y);
}

it('finds every segment near a place, each once', () => {
  fc.assert(
    fc.property(segments, number, number, fc.integer({ min: 0, max: 300 }), (all, x, y, reach) => {
      const grid = new SegmentGrid(Float64Array.from(all.flat()));
      const found: number[] = [];
      grid.near(x, y, reach, (segment) => found.push(segment));
      expect(new Set(found).size).toBe(found.length);
      all.forEach((segment, index) => {
        if (away(segment, x, y) <= reach) expect(found).toContain(index);
      });
    }),
  );
});

it('finds every segment that a line crosses, and those before a place before it is enough', () => {
  fc.assert(
    fc.property(segments, number, number, number, number, (all, x0, y0, x1, y1) => {
      const grid = new SegmentGrid(Float64Array.from(all.flat()));
      const found = new Set<number>();
      grid.along(
        x0,
        y0,
        x1,
        y1,
        0,
        (segment) => found.add(segment),
        () => false,
      );
      const half = new Set<number>();
      grid.along(
        x0,
        y0,
        x1,
        y1,
        0,
        (segment) => half.add(segment),
        (share) => share > 0.5 + 1e-6,
      );
      const [ux, uy] = [x1 - x0, y1 - y0];
      all.forEach(([a, b, c, d], index) => {
        const [vx, vy] = [c - a, d - b];
        const turn = ux * vy - uy * vx;
        if (turn === 0) return;
        const t = ((a - x0) * vy - (b - y0) * vx) / turn;
        const s = ((a - x0) * uy - (b - y0) * ux) / turn;
        if (t < 0 || t > 1 || s < 0 || s > 1) return;
        expect(found.has(index)).toBe(true);
        if (t < 0.5) expect(half.has(index)).toBe(true);
      });
    }),
  );
});

it('has nothing to find where there is nothing', () => {
  const grid = new SegmentGrid(new Float64Array(0));
  const found: number[] = [];
  grid.near(0, 0, 1e6, (segment) => found.push(segment));
  expect(found).toEqual([]);
});
