import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { AreaWalker } from './area-walker.ts';
import { flood, type Flooded } from './flood.ts';
import { hatchLines, isInRing, ringArea } from './rings.ts';

const settings = { tolerance: 1e-6, widestGap: 3 };
/** Lines through places, x and y in turns. */
const chain = (...numbers: number[]): number[] => {
  const segments: number[] = [];
  for (let i = 0; i + 3 < numbers.length; i += 2) segments.push(...numbers.slice(i, i + 4));
  return segments;
};
const square = (x: number, y: number, half: number): number[] =>
  chain(x - half, y - half, x + half, y - half, x + half, y + half, x - half, y + half, x - half, y - half);
const arc = (cx: number, cy: number, radius: number, from: number, to: number, steps = 90): number[] =>
  chain(
    ...Array.from({ length: steps + 1 }, (_, i) => {
      const angle = from + ((to - from) * i) / steps;
      return [cx + radius * Math.cos(angle), cy + radius * Math.sin(angle)];
    }).flat(),
  );
const floodIn = (...parts: number[][]): Flooded => flood(Float64Array.from(parts.flat()), settings);
const area = ({ rings }: Flooded): number => rings.reduce((sum, ring) => sum + ringArea(ring), 0);

describe('flooding', () => {
  it('ends when its time is up', () => {
    let looks = 0;
    const isOver = (): boolean => ++looks > 3;
    const many = Float64Array.from(Array.from({ length: 400 }, (_, k) => square(30 + 3 * k, 3 * k, 1)).flat());
    expect(flood(many, { ...settings, isOver })).toEqual({ kind: 'unfinished', rings: [] });
    expect(looks).toBe(4);
  });

  it('finds a square, and the part of it that crossing lines leave', () => {
    const whole = floodIn(square(0, 0, 10));
    expect(whole.kind).toBe('closed');
    expect(area(whole)).toBeCloseTo(400, 9);
    // lines that cross beyond the corners and part the square
    const part = floodIn(square(0, 0, 10), [-20, 3, 20, 3], [-20, -4, 20, -4], [5, -30, 5, 30]);
    expect(part.kind).toBe('closed');
    expect(area(part)).toBeCloseTo(15 * 7, 9);
  });

  it('leaves islands out, and what stands in islands alone', () => {
    const two = floodIn(square(0, 0, 10), square(5, 5, 2), square(-6, -6, 1), square(5, 5, 1));
    expect(two.rings).toHaveLength(3);
    expect(area(two)).toBeCloseTo(400 - 16 - 4, 9);
    expect(two.rings.slice(1).every((ring) => ringArea(ring) < 0)).toBe(true);
  });

  it('finds its way past islands that the ray meets first', () => {
    const islands = [1, 2, 3, 4].map((k) => square(1.6 * k, 1.4 * k, 0.4));
    const found = floodIn(square(0, 0, 10), ...islands);
    expect(found.kind).toBe('closed');
    expect(area(found)).toBeCloseTo(400 - 4 * 0.64, 9);
  });

  it('goes on through touching corners, along dead ends and back', () => {
    const touching = floodIn(square(0, 0, 10), square(4, 4, 1), square(6, 6, 1), square(-2, -2, 1));
    expect(area(touching)).toBeCloseTo(400 - 12, 9);
    const deadEnd = floodIn(square(0, 0, 10), [10, 2, 4, 2], [4, 2, 4, 6], [-5, -5, -4, -4]);
    expect(deadEnd.rings).toHaveLength(1);
    expect(area(deadEnd)).toBeCloseTo(400, 9);
    const corner = floodIn(square(0, 0, 10), square(8, 8, 2)); // shares two sides' parts
    expect(area(corner)).toBeCloseTo(400 - 16, 9);
  });

  it('follows arcs', () => {
    const half = floodIn(arc(0, -3, 10, 0, Math.PI), chain(-10, -3, 10, -3));
    expect(half.kind).toBe('closed');
    expect(area(half)).toBeCloseTo((Math.PI * 100) / 2, 0);
    const ring = floodIn(arc(6, 0, 10, 0, 2 * Math.PI), arc(6, 0, 3, 0, 2 * Math.PI));
    expect(area(ring)).toBeCloseTo(Math.PI * 91, 0);
  });

  it('minds lines upon each other, and ends that nearly meet', () => {
    const twice = floodIn(square(0, 0, 10), square(0, 0, 10), chain(-10, -10, 3, -10));
    expect(area(twice)).toBeCloseTo(400, 6);
    const rounded = floodIn(chain(-10, -10, 10, -10, 10, 10), chain(10 + 4e-7, 10, -10, 10, -10, -10 + 5e-7));
    expect(rounded.kind).toBe('closed');
  });

  it('says where it is open, and what closing would give', () => {
    const open = floodIn(chain(-10, -10, 10, -10, 10, 10, -10, 10, -10, -8.5), chain(2, 2, 3, 3));
    expect(open.kind).toBe('open');
    if (open.kind !== 'open') return;
    expect(open.gaps).toHaveLength(1);
    expect(open.gaps[0]!.size).toBeCloseTo(1.5, 9);
    expect(open.gaps[0]!.from).toEqual([-10, -8.5]);
    expect(area(open)).toBeCloseTo(400, 6);
    // two gaps: the outline needs both, the widest is told first
    const both = floodIn(chain(-10, -9, -10, 10, 10, 10, 10, -10, 9.5, -10), chain(7, -10, -10, -10));
    expect(both.kind === 'open' && both.gaps.map(({ size }) => Math.round(100 * size) / 100)).toEqual([2.5, 1]);
    const nothing = floodIn(chain(20, 20, 30, 30));
    expect(nothing).toEqual({ kind: 'open', gaps: [], rings: [] });
    expect(floodIn([])).toEqual({ kind: 'open', gaps: [], rings: [] });
  });

  it('finds the cell of any grid of slanted lines, wherever the place lies in it', () => {
    const number = fc.integer({ min: 1, max: 999 });
    fc.assert(
      fc.property(number, number, number, (slant, px, py) => {
        const [dx, dy] = [px / 1000, py / 1000];
        const lean = slant / 1000 - 0.5;
        const lines: number[] = [];
        for (let k = -8; k <= 8; k++) {
          const level = k - dy;
          lines.push(-30, level, 30, level);
          // leaning lines through x = k − dx where y = −dy
          lines.push(k - dx - 9 * lean, -dy - 9, k - dx + 9 * lean, -dy + 9);
        }
        const found = flood(Float64Array.from(lines), settings);
        expect(found.kind).toBe('closed');
        expect(area(found)).toBeCloseTo(1, 6);
        expect(isInRing(found.rings[0]!, 0, 0)).toBe(true);
      }),
    );
  });

  it('agrees with the whole arrangement, built by trying every pair', () => {
    const random = seededRandom(5);
    for (let scene = 0; scene < 60; scene++) {
      const lines = Array.from({ length: 4 * 14 }, () => (random() - 0.5) * 40);
      const segments = [...lines, ...square(0, 0, 15)];
      const found = flood(Float64Array.from(segments), settings);
      expect(found.kind).toBe('closed');
      expect(ringArea(found.rings[0]!), `scene ${scene}`).toBeCloseTo(faceAreaByForce(segments), 6);
    }
  });

  it('is the same from wherever in the area it begins, and another one outside of it', () => {
    const random = seededRandom(8);
    for (let scene = 0; scene < 40; scene++) {
      const rooms: number[] = [];
      for (let k = 0; k < 60; k++) {
        const [x, y] = [(random() - 0.5) * 28, (random() - 0.5) * 28];
        const [w, h] = [3 * random() ** 2, 3 * random() ** 2];
        if (random() < 0.3) rooms.push(x, y, x + w * (random() - 0.5), y + h);
        else rooms.push(...chain(x, y, x + w, y, x + w, y + h, x, y + h, x, y));
      }
      const all = [...square(0, 0, 15), ...rooms];
      const from = (x: number, y: number): Flooded =>
        flood(
          Float64Array.from(all, (value, i) => value - (i % 2 === 0 ? x : y)),
          settings,
        );
      const found = from(0, 0);
      expect(found.kind).toBe('closed');
      for (let look = 0; look < 12; look++) {
        const [x, y] = [(random() - 0.5) * 29, (random() - 0.5) * 29];
        const [outline, ...islands] = found.rings;
        const isIn = isInRing(outline!, x, y) && !islands.some((ring) => isInRing(ring, x, y));
        const other = from(x, y);
        const message = `scene ${scene}, from ${x}, ${y}`;
        if (isIn) expect(area(other), message).toBeCloseTo(area(found), 6);
        else expect(Math.abs(area(other) - area(found)), message).toBeGreaterThan(1e-9);
      }
    }
  });

  it('is found also where crossings lie nearer together than ends that meet', () => {
    // at these a walk with the tolerance as it is never comes back
    for (const seed of [6, 49, 95, 106, 229, 376]) {
      const random = seededRandom(seed);
      const lines = chain(-15, -15, 15, -15, 15, 15, -15, 15, -15, -15);
      for (let k = 0; k < 60; k++) {
        const [x, y] = [(random() - 0.5) * 28, (random() - 0.5) * 28];
        const [w, h] = [6 * random() ** 2, 6 * random() ** 2];
        if (random() < 0.4) lines.push(x, y, x + w * (random() - 0.5), y + h);
        else lines.push(...chain(x, y, x + w, y, x + w, y + h, x, y + h, x, y));
      }
      const loose = { tolerance: 5e-3, widestGap: 3 };
      expect(new AreaWalker(Float64Array.from(lines), loose).face(), `seed ${seed}`).toBeNull();
      const found = flood(Float64Array.from(lines), loose);
      expect(found.kind, `seed ${seed}`).toBe('closed');
      // its outline is off by no more than the tolerance
      const outline = found.rings[0]!;
      let length = 0;
      for (let i = 0; i < outline.length; i += 2) {
        const j = (i + 2) % outline.length;
        length += Math.hypot(outline[j]! - outline[i]!, outline[j + 1]! - outline[i + 1]!);
      }
      const off = Math.abs(ringArea(outline) - faceAreaByForce(lines));
      expect(off, `seed ${seed}`).toBeLessThanOrEqual(2 * loose.tolerance * length);
    }
  });

  it('hatches what it finds: lines within, as many as fit', () => {
    const { rings } = floodIn(square(0, 0, 10), square(5, 5, 2));
    const lines = hatchLines(rings, Math.PI / 4, 0.5);
    let length = 0;
    for (let i = 0; i < lines.length; i += 4) {
      const [x0, y0, x1, y1] = lines.slice(i, i + 4) as [number, number, number, number];
      length += Math.hypot(x1 - x0, y1 - y0);
      const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
      expect(isInRing(rings[0]!, x, y) && !isInRing(rings[1]!, x, y)).toBe(true);
    }
    expect(length * 0.5).toBeCloseTo(384, -1); // the area
  });
});

/** The area of the least face around the origin: all crossings, all half edges, all loops. */
function faceAreaByForce(p: readonly number[]): number {
  const nodes: [number, number][] = [];
  const nodeAt = (x: number, y: number): number => {
    const known = nodes.findIndex(([a, b]) => Math.hypot(a - x, b - y) < 1e-7);
    return known >= 0 ? known : nodes.push([x, y]) - 1;
  };
  const links = new Set<string>();
  for (let i = 0; i < p.length; i += 4) {
    const on: [number, number][] = [
      [0, nodeAt(p[i]!, p[i + 1]!)],
      [1, nodeAt(p[i + 2]!, p[i + 3]!)],
    ];
    const [ux, uy] = [p[i + 2]! - p[i]!, p[i + 3]! - p[i + 1]!];
    for (let k = 0; k < p.length; k += 4) {
      const [vx, vy] = [p[k + 2]! - p[k]!, p[k + 3]! - p[k + 1]!];
      const turn = ux * vy - uy * vx;
      if (k === i || turn === 0) continue;
      const [wx, wy] = [p[k]! - p[i]!, p[k + 1]! - p[i + 1]!];
      const [t, s] = [(wx * vy - wy * vx) / turn, (wx * uy - wy * ux) / turn];
      if (t >= 0 && t <= 1 && s >= 0 && s <= 1) on.push([t, nodeAt(p[i]! + t * ux, p[i + 1]! + t * uy)]);
    }
    on.sort((a, b) => a[0] - b[0]);
    for (let k = 1; k < on.length; k++)
      if (on[k]![1] !== on[k - 1]![1]) links.add(`${on[k - 1]![1]} ${on[k]![1]}`).add(`${on[k]![1]} ${on[k - 1]![1]}`);
  }
  const next = (from: number, to: number): number => {
    const angle = (a: number, b: number): number =>
      Math.atan2(nodes[b]![1] - nodes[a]![1], nodes[b]![0] - nodes[a]![0]);
    const ways = [...links].map((link) => link.split(' ').map(Number)).filter(([a]) => a === to);
    const back = angle(to, from);
    const clockwise = (b: number): number => {
      const turn = back - angle(to, b);
      return turn <= 1e-12 ? turn + 2 * Math.PI : turn;
    };
    return ways.map(([, b]) => b!).sort((a, b) => clockwise(a) - clockwise(b))[0]!;
  };
  const open = new Set(links);
  let least = Infinity;
  for (const link of links) {
    if (!open.has(link)) continue;
    const ring: number[] = [];
    let [from, to] = link.split(' ').map(Number) as [number, number];
    while (open.delete(`${from} ${to}`)) {
      ring.push(...nodes[from]!);
      [from, to] = [to, next(from, to)];
    }
    const size = ringArea(ring);
    if (size > 0 && size < least && isInRing(ring, 0, 0)) least = size;
  }
  return least;
}
