import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PathBuilder, type Path } from '../drawing/path.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { crossingOfLines, crossingsNear } from './crossings.ts';
import { curvesOf } from './curve.ts';
import { flatSnaps, footOnLine, type SnapQuestion } from './flat-snaps.ts';
import { gridPoint, rankSnaps, snapKinds, type Snap, type SnapKind, type SnapOffer } from './snap.ts';

const [E, N] = [412_345_678.123456, 7_208_234_567.654321];
const line = (x0: number, y0: number, x1: number, y1: number): PathBuilder =>
  new PathBuilder().moveTo(x0, y0).lineTo(x1, y1);
const arcPath = (cx: number, cy: number, radius: number, startRad: number, sweepRad: number): PathBuilder => {
  const end = startRad + sweepRad;
  return new PathBuilder()
    .moveTo(cx + radius * Math.cos(startRad), cy + radius * Math.sin(startRad))
    .arcTo(
      { cx, cy, ux: radius, uy: 0, vx: 0, vy: radius, startRad, sweepRad },
      cx + radius * Math.cos(end),
      cy + radius * Math.sin(end),
    );
};
const ask = (at: Vec2, radius: number, kinds: readonly SnapKind[], from: Vec2 | null = null): SnapQuestion => ({
  at,
  radius,
  from,
  kinds: new Set(kinds),
});
const first = (paths: readonly Path[], at: Vec2, radius: number, kinds: readonly SnapKind[] = snapKinds): Snap | null =>
  rankSnaps(flatSnaps(paths, ask(at, radius, kinds)), 1e-9 * radius)[0] ?? null;

describe('snaps to lines and curves', () => {
  it('give back the very doubles of the file, however far from the origin', () => {
    const offset = fc.double({ min: 0, max: 4000, noNaN: true });
    fc.assert(
      fc.property(offset, offset, (dx, dy) => {
        const [x, y] = [E + dx, N + dy];
        const snap = first([line(E - 900, N - 700, x, y)], { x: x + 0.3, y: y - 0.2 }, 1);
        expect(snap).toMatchObject({ kind: 'end', point: { x, y, z: 0 } });
      }),
    );
  });

  it('rank places before feet on lines, and ends before what is hardly nearer', () => {
    const cross = [line(0, 0, 10, 0), line(1, -5, 1, 5)];
    expect(first(cross, { x: 0.52, y: 0 }, 9, ['end', 'crossing'])!.kind).toBe('end');
    expect(first(cross, { x: 0.9, y: 0 }, 9)!.kind).toBe('crossing');
    const kinds = rankSnaps(flatSnaps(cross, ask({ x: 3, y: 0.1 }, 5, snapKinds)), 1e-9).map(({ kind }) => kind);
    expect(kinds).toEqual(['crossing', 'end', 'middle', 'nearest', 'nearest']);
    const grid: SnapOffer = { kind: 'grid', point: { ...gridPoint({ x: 3.2, y: 0.1 }, 1), z: 0 }, distance: 0.1 };
    expect(rankSnaps([grid, ...flatSnaps(cross, ask({ x: 3.2, y: 0.1 }, 5, ['nearest']))], 1e-9).at(-1)).toMatchObject({
      kind: 'grid',
      point: { x: 3, y: 0 },
    });
  });

  it('find centres by their circles, quadrants, and the circle itself', () => {
    const circle = arcPath(E, N, 100, 0, 2 * Math.PI);
    const rim = { x: E + 101 * Math.cos(1), y: N + 101 * Math.sin(1) };
    expect(first([circle], rim, 5)).toMatchObject({
      kind: 'centre',
      point: { x: E, y: N },
      round: { centre: { x: E, y: N }, radius: 100 },
    });
    expect(first([circle], { x: E + 1, y: N + 99 }, 5, ['quadrant'])!.point).toEqual({ x: E, y: N + 100, z: 0 });
    const quarter = arcPath(E, N, 100, 0.2, 1);
    expect(first([quarter], { x: E, y: N + 100 }, 5, ['quadrant'])).toBeNull();
  });

  it('find the middle of arcs by their length, and close figures', () => {
    const snap = first([arcPath(0, 0, 100, 0, Math.PI)], { x: 1, y: 99 }, 5, ['middle'])!;
    expect(snap.point.x).toBeCloseTo(0, 10);
    expect(snap.point.y).toBeCloseTo(100, 10);
    const square = new PathBuilder().moveTo(0, 0).lineTo(10, 0).lineTo(10, 10).lineTo(0, 10).close();
    expect(first([square], { x: 0.1, y: 5.2 }, 1, ['end', 'middle'])!.point).toEqual({ x: 0, y: 5, z: 0 });
    expect(first([square], { x: 5, y: 5 }, 1)).toBeNull();
    const uneven = new PathBuilder().moveTo(0, 0).quadraticTo(90, 0, 100, 0); // faster in its first half
    expect(first([uneven], { x: 50, y: 0 }, 1, ['middle'])!.point.x).toBeCloseTo(50, 9);
  });
});

/** Doubles as integers: both coordinates lie on grids no finer than this. */
const FINE = 2 ** 40;
const whole = (value: number): bigint => BigInt(value * FINE);
const ulp = (value: number): number => 2 ** (Math.floor(Math.log2(Math.abs(value))) - 52);
/** Whether a double lies within two units in the last place of a fraction. */
function isWithinTwoUlps(value: number, numerator: bigint, denominator: bigint): boolean {
  const error = whole(value) * denominator - numerator;
  const most = whole(2 * ulp(value)) * denominator;
  const size = (n: bigint): bigint => (n < 0n ? -n : n);
  return size(error) <= size(most);
}

describe('snapped values at E 4.1e8, N 7.2e9', () => {
  const at = fc.record({
    x: fc.integer({ min: -5e7, max: 5e7 }).map((d) => E + d / 997),
    y: fc.integer({ min: -5e7, max: 5e7 }).map((d) => N + d / 997),
  });

  it('crossings are within two units in the last place of the exact place', () => {
    let crossings = 0;
    fc.assert(
      fc.property(at, at, at, fc.double({ min: 0.1, max: 2, noNaN: true }), (a, b, c, past) => {
        // the second line goes towards the middle of the first, mostly beyond it
        const toward = (k: 'x' | 'y'): number => c[k] + ((a[k] + b[k]) / 2 - c[k]) * (0.8 + past);
        const d = { x: toward('x'), y: toward('y') };
        const about = { x: Math.round(E), y: Math.round(N) };
        const [p, q] = [curvesOf(line(a.x, a.y, b.x, b.y), about)[0], curvesOf(line(c.x, c.y, d.x, d.y), about)[0]];
        if (!p || !q) return;
        const found = crossingOfLines(p.from, p.to, q.from, q.to);
        if (!found) return;
        crossings++;
        const [ax, ay, ux, uy] = [whole(a.x), whole(a.y), whole(b.x) - whole(a.x), whole(b.y) - whole(a.y)];
        const [vx, vy] = [whole(d.x) - whole(c.x), whole(d.y) - whole(c.y)];
        const turn = ux * vy - uy * vx;
        const s = (whole(c.x) - ax) * vy - (whole(c.y) - ay) * vx;
        expect(isWithinTwoUlps(found.x + about.x, ax * turn + ux * s, turn)).toBe(true);
        expect(isWithinTwoUlps(found.y + about.y, ay * turn + uy * s, turn)).toBe(true);
      }),
      { numRuns: 2000 },
    );
    expect(crossings).toBeGreaterThan(200);
  });

  it('crossings at angles of a millionth of a degree are, too', () => {
    const tilt = fc.double({ min: 1e-3, max: 1, noNaN: true });
    fc.assert(
      fc.property(at, tilt, tilt, (a, up, down) => {
        const [b, c, d] = [
          { x: a.x + 4e4, y: a.y + 9e3 },
          { x: a.x, y: a.y + up },
          { x: a.x + 4e4, y: a.y + 9e3 - down },
        ];
        const paths = [line(a.x, a.y, b.x, b.y), line(c.x, c.y, d.x, d.y)];
        const s = up / (up + down);
        const about = { x: a.x + 4e4 * s, y: a.y + 9e3 * s };
        const snap = rankSnaps(flatSnaps(paths, ask(about, 5, ['crossing'])), 1e-9)[0];
        if (!snap) return;
        const [ax, ux, uy] = [whole(a.x), whole(b.x) - whole(a.x), whole(b.y) - whole(a.y)];
        const [vx, vy] = [whole(d.x) - whole(c.x), whole(d.y) - whole(c.y)];
        const turn = ux * vy - uy * vx;
        const share = (whole(c.x) - ax) * vy - (whole(c.y) - whole(a.y)) * vx;
        expect(isWithinTwoUlps(snap.point.x, ax * turn + ux * share, turn)).toBe(true);
      }),
    );
  });

  it('middles and feet of perpendiculars are, too', () => {
    fc.assert(
      fc.property(at, at, at, (a, b, p) => {
        if (Math.hypot(a.x - b.x, a.y - b.y) < 1) return;
        const path = line(a.x, a.y, b.x, b.y);
        const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
        const [snap] = rankSnaps(flatSnaps([path], ask(middle, 1, ['middle'])), 1e-9);
        expect(isWithinTwoUlps(snap!.point.x, whole(a.x) + whole(b.x), 2n)).toBe(true);
        const [ux, uy] = [whole(b.x) - whole(a.x), whole(b.y) - whole(a.y)];
        const dot = (whole(p.x) - whole(a.x)) * ux + (whole(p.y) - whole(a.y)) * uy;
        const length2 = ux * ux + uy * uy;
        const foot = footOnLine({ x: 0, y: 0 }, { x: b.x - a.x, y: b.y - a.y }, { x: p.x - a.x, y: p.y - a.y });
        if (foot.share < 0 || foot.share > 1) return;
        const place = { x: a.x + foot.point.x, y: a.y + foot.point.y };
        const [found] = rankSnaps(flatSnaps([path], ask(place, 1, ['perpendicular foot'], p)), 1e-9);
        expect(isWithinTwoUlps(found!.point.x, whole(a.x) * length2 + ux * dot, length2)).toBe(true);
        expect(isWithinTwoUlps(found!.point.y, whole(a.y) * length2 + uy * dot, length2)).toBe(true);
      }),
      { numRuns: 1000 },
    );
  });
});

/** What a scene of a few curves offers, by trying tens of thousands of places on each. */
function bruteForce(paths: readonly Path[], { at, radius, from }: SnapQuestion): { kind: SnapKind; point: Vec2 }[] {
  const STEPS = 3000;
  const found: { kind: SnapKind; point: Vec2 }[] = [];
  const curves = paths.flatMap((path) => curvesOf(path, { x: 0, y: 0 }));
  const isNear = ({ x, y }: Vec2, more = 0): boolean => Math.hypot(x - at.x, y - at.y) <= radius + more;
  const walks = curves.map((curve) => Array.from({ length: STEPS + 1 }, (_, i) => curve.at(i / STEPS)));
  walks.forEach((walk, index) => {
    const add = (kind: SnapKind, value: (i: number) => number): void => {
      for (let i = 1; i <= STEPS; i++) {
        const [a, b] = [value(i - 1), value(i)];
        const s = a / (a - b);
        const [p, q] = [walk[i - 1]!, walk[i]!];
        if (a === 0 || a < 0 !== b < 0)
          found.push({ kind, point: { x: p.x + (q.x - p.x) * s, y: p.y + (q.y - p.y) * s } });
      }
    };
    if (!from) return;
    const slope = (i: number): Vec2 => curves[index]!.derivative(i / STEPS);
    const way = (i: number): Vec2 => ({ x: walk[i]!.x - from.x, y: walk[i]!.y - from.y });
    add('perpendicular foot', (i) => way(i).x * slope(i).x + way(i).y * slope(i).y);
    if (!curves[index]!.isLine) add('tangent', (i) => way(i).x * slope(i).y - way(i).y * slope(i).x);
  });
  for (let a = 0; a < walks.length; a++)
    for (let b = a + 1; b < walks.length; b++) {
      const near = (walk: readonly Vec2[]): number[] =>
        walk.flatMap((place, i) => (i < STEPS && isNear(place, 0.5 * radius) ? [i] : []));
      const others = near(walks[b]!);
      for (const i of near(walks[a]!))
        for (const k of others) {
          const [p, q, r, s] = [walks[a]![i]!, walks[a]![i + 1]!, walks[b]![k]!, walks[b]![k + 1]!];
          if (Math.max(p.x, q.x) < Math.min(r.x, s.x) || Math.min(p.x, q.x) > Math.max(r.x, s.x)) continue;
          if (Math.max(p.y, q.y) < Math.min(r.y, s.y) || Math.min(p.y, q.y) > Math.max(r.y, s.y)) continue;
          const crossing = crossingOfLines(p, q, r, s);
          if (crossing) found.push({ kind: 'crossing', point: crossing });
        }
    }
  return found.filter(({ point }) => isNear(point));
}

describe('snaps against brute force', () => {
  it('find all that trying every place finds, and nothing else', () => {
    const random = seededRandom(7);
    const any = (most: number): number => (random() - 0.5) * 2 * most;
    const tally = new Map<SnapKind, number>();
    for (let scene = 0; scene < 60; scene++) {
      const paths = Array.from({ length: 5 }, (): Path => {
        const kind = Math.floor(random() * 4);
        if (kind === 0) return line(any(30), any(30), any(30), any(30));
        if (kind === 1) return arcPath(any(15), any(15), 3 + 20 * random(), any(3), any(6));
        const start = new PathBuilder().moveTo(any(30), any(30));
        return kind === 2
          ? start.quadraticTo(any(30), any(30), any(30), any(30))
          : start.cubicTo(any(30), any(30), any(30), any(30), any(30), any(30));
      });
      const question = ask({ x: any(10), y: any(10) }, 5, ['crossing', 'perpendicular foot', 'tangent'], {
        x: any(40),
        y: any(40),
      });
      const found = flatSnaps(paths, question);
      const expected = bruteForce(paths, question);
      const matches = (a: Vec2, b: Vec2): boolean => Math.hypot(a.x - b.x, a.y - b.y) < 2e-4;
      const isAtRim = ({ x, y }: Vec2): boolean =>
        Math.abs(Math.hypot(x - question.at.x, y - question.at.y) - 5) < 1e-3;
      for (const { kind, point } of expected) {
        tally.set(kind, (tally.get(kind) ?? 0) + 1);
        const isFound = isAtRim(point) || found.some((offer) => offer.kind === kind && matches(offer.point, point));
        expect(isFound, `scene ${scene}: ${kind} at ${point.x}, ${point.y}`).toBe(true);
      }
      for (const { kind, point } of found) {
        const isMeant = isAtRim(point) || expected.some((one) => one.kind === kind && matches(one.point, point));
        expect(isMeant, `scene ${scene}: no ${kind} at ${point.x}, ${point.y}`).toBe(true);
      }
    }
    for (const kind of ['crossing', 'perpendicular foot', 'tangent'] as const)
      expect(tally.get(kind) ?? 0).toBeGreaterThan(3);
  });

  it('never pass over a crossing within reach, at any angle and of lines of any length', () => {
    const radius = 7;
    const logarithm = (min: number, max: number) => fc.double({ min, max, noNaN: true }).map((power) => 10 ** power);
    const inReach = fc.double({ min: -8, max: 8, noNaN: true });
    const direction = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true });
    let inSight = 0;
    fc.assert(
      fc.property(
        fc.tuple(inReach, inReach),
        direction,
        logarithm(-9, 0.4),
        fc.array(logarithm(-1, 9), { minLength: 4, maxLength: 4 }),
        ([x, y], way, angle, [back, ahead, left, right]) => {
          const point = (along: number, length: number): Vec2 => ({
            x: x + length * Math.cos(along),
            y: y + length * Math.sin(along),
          });
          const [a, b] = [point(way, -back!), point(way, ahead!)];
          const [c, d] = [point(way + angle, -left!), point(way + angle, right!)];
          const about = { x: 0, y: 0 };
          const [first, second] = [
            curvesOf(line(a.x, a.y, b.x, b.y), about)[0]!,
            curvesOf(line(c.x, c.y, d.x, d.y), about)[0]!,
          ];
          const exact = crossingOfLines(a, b, c, d);
          const found = crossingsNear(first, second, radius);
          if (found.length > 0) expect(found).toEqual([exact]);
          else if (exact) expect(Math.hypot(exact.x, exact.y)).toBeGreaterThan(radius);
          inSight += found.length;
        },
      ),
      { numRuns: 3000 },
    );
    expect(inSight).toBeGreaterThan(500);
  });

  it('pass over crossings far away', () => {
    const [first, second] = [
      curvesOf(line(0, -5, 200, -5), { x: 0, y: 0 })[0]!,
      curvesOf(line(100, -9, 120, 40), { x: 0, y: 0 })[0]!,
    ];
    expect(crossingsNear(first, second, 7)).toEqual([]);
    expect(crossingsNear(first, second, 70)).toHaveLength(1);
  });

  it('find the nearest place of each curve', () => {
    const random = seededRandom(11);
    const any = (most: number): number => (random() - 0.5) * 2 * most;
    for (let scene = 0; scene < 80; scene++) {
      const path =
        scene % 2 === 0
          ? arcPath(any(5), any(5), 1 + 9 * random(), any(3), any(6))
          : new PathBuilder().moveTo(any(9), any(9)).cubicTo(any(9), any(9), any(9), any(9), any(9), any(9));
      const at = { x: any(6), y: any(6) };
      const [snap] = flatSnaps([path], ask(at, 100, ['nearest']));
      const [curve] = curvesOf(path, { x: 0, y: 0 });
      let least = Infinity;
      for (let i = 0; i <= 20_000; i++) {
        const { x, y } = curve!.at(i / 20_000);
        least = Math.min(least, Math.hypot(x - at.x, y - at.y));
      }
      expect(snap!.distance).toBeLessThanOrEqual(least + 1e-12);
      expect(snap!.distance).toBeGreaterThan(least - 1e-5);
    }
  });
});
