import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { meetBox, screenBox, triangleMeetsBox } from './solid-box.ts';

const px = fc.integer({ min: -40, max: 140 });
const place = fc.tuple(px, px);
const box = screenBox({ x: 100, y: 80 }, { x: 0, y: 0 });

/** Cuts a triangle by the box's sides one after another: what remains is what both share. */
function shared(corners: readonly (readonly [number, number])[]): number {
  let ring = corners.map(([x, y]) => [x, y] as [number, number]);
  for (const [axis, sign, most] of [
    [0, 1, 100],
    [0, -1, 0],
    [1, 1, 80],
    [1, -1, 0],
  ] as const) {
    const next: [number, number][] = [];
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length]!;
      const [a, b] = [most - sign * p[axis], most - sign * q[axis]];
      if (a >= 0) next.push(p);
      if ((a > 0 && b < 0) || (a < 0 && b > 0)) {
        const share = a / (a - b);
        next.push([p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share]);
      }
    });
    ring = next;
  }
  return ring.length;
}

describe('a box drawn over solids', () => {
  it('touches a triangle just where cutting that by its sides leaves something', () => {
    fc.assert(
      fc.property(place, place, place, (a, b, c) => {
        const seen = [...a, ...b, ...c];
        expect(triangleMeetsBox(seen, 0, 2, 4, box)).toBe(shared([a, b, c]) > 0);
      }),
      { numRuns: 2000 },
    );
  });

  it('holds what has all its corners inside, and is touched by what only spans it', () => {
    const seen = Float64Array.from([10, 10, 90, 10, 50, 70, -500, -500, 900, -400, 100, 900]);
    expect(meetBox(seen, [0, 1, 2], [0, 3], box)).toEqual({ isInside: true, isTouching: true });
    expect(meetBox(seen, [3, 4, 5], [0, 3], box)).toEqual({ isInside: false, isTouching: true });
    expect(meetBox(seen, [0, 1, 2, 3, 4, 5], [0, 6], box)).toEqual({ isInside: false, isTouching: true });
    expect(meetBox(seen, [], [0, 0], box)).toEqual({ isInside: false, isTouching: false });
    const behind = Float64Array.from([NaN, NaN, 50, 50, 60, 50]);
    expect(meetBox(behind, [0, 1, 2], [0, 3], box).isInside).toBe(false);
  });
});
