import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { findStrays } from './strays.ts';

const ORIGIN = { x: 412_600_000, y: 7_208_400_000 };
type Box = readonly [number, number, number, number];

const random = seededRandom(7);
const at = (x: number, y: number, size = 100): Box => [x, y, x + size, y + size];
/** Evenly spread over a rectangle. */
const spread = (count: number, x: number, y: number, w: number, h: number): Box[] =>
  Array.from({ length: count }, () => at(x + random() * w, y + random() * h));
/** Dense in the middle, thin far out: like a town with its roads. */
const thinning = (count: number, size: number): Box[] =>
  Array.from({ length: count }, () => {
    const [r, a] = [size * random() ** 3, random() * 2 * Math.PI];
    return at(r * Math.cos(a), r * Math.sin(a));
  });
const plan = spread(2000, 0, 0, 800_000, 600_000);

function straysOf(boxes: readonly Box[]): readonly number[] {
  const entries = Uint32Array.from(boxes, (_, i) => i);
  return findStrays(Float32Array.from(boxes.flat()), entries, ORIGIN).strays;
}

describe('strays', () => {
  it.each<[string, Box[], number]>([
    ['an even plan', plan, 0],
    ['one far off', [...plan, at(41_000_000, 0)], 1],
    ['three at different sides', [...plan, at(41e6, 0), at(0, -9e6), at(-5e6, 5e6)], 3],
    ['a small group far off', [...plan, ...spread(20, 30e6, 0, 1000, 1000)], 20],
    ['something at the origin of the grid', [...plan, at(-412_600_000, -7_208_400_000)], 1],
    ['two honest halves', [...spread(1000, 0, 0, 1e5, 1e5), ...spread(1000, 40e6, 0, 1e5, 1e5)], 0],
    ['two halves, one a tenth of the other', [...spread(1800, 0, 0, 1e5, 1e5), ...spread(200, 40e6, 0, 1e5, 1e5)], 0],
    ['thinning out', thinning(3000, 1e6), 0],
    [
      'a long pipeline from a dense works',
      [...plan, ...Array.from({ length: 60 }, (_, i) => at(8e5 + i * 2e5, 3e5))],
      0,
    ],
    ['a frame round everything', [...plan, [-1e6, -1e6, 2e6, 2e6]], 0],
    ['a title block beside the plan', [...plan, ...spread(30, 900_000, 0, 200_000, 100_000)], 0],
    ['a north arrow not far away', [...plan, at(1_200_000, 0)], 0],
    ['all in one place', Array.from({ length: 100 }, () => at(5, 5)), 0],
    ['a row', Array.from({ length: 100 }, (_, i) => at(i * 1000, 0)), 0],
    ['a row and one beyond', [...Array.from({ length: 100 }, (_, i) => at(i * 1000, 0)), at(1e7, 0)], 1],
    ['two objects', [at(0, 0), at(1e9, 0)], 0],
    ['one object', [at(0, 0)], 0],
    ['none', [], 0],
  ])('%s', (_name, boxes, expected) => {
    expect(straysOf(boxes)).toHaveLength(expected);
  });

  it('are named farthest first, with the box of the rest and their distances', () => {
    const boxes = [...plan, at(41e6, 3e5), at(2e6, 3e5)];
    const entries = Uint32Array.from(boxes, (_, i) => i);
    const { strays, main, nearest, farthest, histogram } = findStrays(Float32Array.from(boxes.flat()), entries, ORIGIN);
    expect(strays).toEqual([2000, 2001]);
    expect(main.minX).toBeGreaterThanOrEqual(ORIGIN.x);
    expect(main.maxX).toBeLessThan(ORIGIN.x + 801_000);
    expect(farthest).toBeGreaterThan(40_100_000);
    expect(farthest).toBeLessThan(40_300_000);
    expect(nearest).toBeLessThan(1_300_000);
    expect(histogram.reduce((sum, { count }) => sum + count, 0)).toBe(2002);
    expect(histogram.reduce((sum, bar) => sum + bar.strays, 0)).toBe(2);
  });

  it('do not depend on where on the grid the drawing lies, nor on its scale', () => {
    const boxes = [...plan, at(41e6, 0)].map(([a, b, c, d]) => [a / 1000, b / 1000, c / 1000, d / 1000] as const);
    expect(straysOf(boxes)).toEqual([2000]);
  });
});
