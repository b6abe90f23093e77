import { nearnessOfBox, nearnessOfLine } from '../drawing/nearness.ts';
import { cubicAt, quadraticAt } from '../drawing/extents.ts';
import { visitPath, type ArcShape, type Path } from '../drawing/path.ts';
import type { Vec2 } from '../geometry/vec.ts';

/**
 * One line or curve of an element, as far as snapping looks at it: local coordinates about the place that is asked for,
 * so that doubles have digits to spare, with what the file says of it.
 */
export interface Curve {
  /** Place at a parameter 0 … 1, local. */
  readonly at: (t: number) => Vec2;
  readonly derivative: (t: number) => Vec2;
  /** The greatest length of its second derivative. */
  readonly bend: number;
  readonly isLine: boolean;
  /** Ends, local. */
  readonly from: Vec2;
  readonly to: Vec2;
  /** Ends, the very doubles of the file. */
  readonly start: Vec2;
  readonly end: Vec2;
  /** Of an arc, in coordinates of the file. */
  readonly arc?: ArcShape;
  /** Parts that it should be looked at in at least: no part turns far. */
  readonly parts: number;
}

/**
 * The curves of a path.
 * @param about what local coordinates are relative to
 * @param radius those that are surely farther from there are left out; of an arc the whole ellipse counts, its centre, too
 */
export function curvesOf(path: Path, about: Vec2, radius = Infinity): Curve[] {
  const curves: Curve[] = [];
  const isAway = (xs: readonly number[], ys: readonly number[]): boolean =>
    nearnessOfBox(
      Math.min(...xs) - about.x,
      Math.min(...ys) - about.y,
      Math.max(...xs) - about.x,
      Math.max(...ys) - about.y,
    ) > radius;
  const local = (x: number, y: number): Vec2 => ({ x: x - about.x, y: y - about.y });
  const ends = (x0: number, y0: number, x: number, y: number) => ({
    from: local(x0, y0),
    to: local(x, y),
    start: { x: x0, y: y0 },
    end: { x, y },
  });
  visitPath(path, {
    line: (x0, y0, x, y) => {
      if (x0 === x && y0 === y) return;
      if (nearnessOfLine(x0 - about.x, y0 - about.y, x - about.x, y - about.y) > radius) return;
      const own = ends(x0, y0, x, y);
      const [a, b] = [own.from, own.to];
      const way = { x: b.x - a.x, y: b.y - a.y };
      const at = (t: number): Vec2 => (t === 1 ? b : { x: a.x + way.x * t, y: a.y + way.y * t });
      curves.push({ ...own, at, derivative: () => way, bend: 0, isLine: true, parts: 1 });
    },
    quadratic: (x0, y0, cx, cy, x, y) => {
      if (isAway([x0, cx, x], [y0, cy, y])) return;
      const own = ends(x0, y0, x, y);
      const { from: p, to: q } = own;
      const c = local(cx, cy);
      curves.push({
        ...own,
        at: (t) => ({ x: quadraticAt(p.x, c.x, q.x, t), y: quadraticAt(p.y, c.y, q.y, t) }),
        derivative: (t) => ({
          x: 2 * ((1 - t) * (c.x - p.x) + t * (q.x - c.x)),
          y: 2 * ((1 - t) * (c.y - p.y) + t * (q.y - c.y)),
        }),
        bend: 2 * Math.hypot(p.x - 2 * c.x + q.x, p.y - 2 * c.y + q.y),
        isLine: false,
        parts: 8,
      });
    },
    cubic: (x0, y0, ax, ay, bx, by, x, y) => {
      if (isAway([x0, ax, bx, x], [y0, ay, by, y])) return;
      const own = ends(x0, y0, x, y);
      const { from: p, to: q } = own;
      const [a, b] = [local(ax, ay), local(bx, by)];
      const slope = (k: 'x' | 'y', t: number): number => 3 * quadraticAt(a[k] - p[k], b[k] - a[k], q[k] - b[k], t);
      curves.push({
        ...own,
        at: (t) => ({ x: cubicAt(p.x, a.x, b.x, q.x, t), y: cubicAt(p.y, a.y, b.y, q.y, t) }),
        derivative: (t) => ({ x: slope('x', t), y: slope('y', t) }),
        bend:
          6 *
          Math.max(
            Math.hypot(p.x - 2 * a.x + b.x, p.y - 2 * a.y + b.y),
            Math.hypot(a.x - 2 * b.x + q.x, a.y - 2 * b.y + q.y),
          ),
        isLine: false,
        parts: 12,
      });
    },
    arc: (x0, y0, arc, x, y) => {
      const [reachX, reachY] = [Math.hypot(arc.ux, arc.vx), Math.hypot(arc.uy, arc.vy)];
      if (isAway([arc.cx - reachX, arc.cx + reachX], [arc.cy - reachY, arc.cy + reachY])) return;
      const own = ends(x0, y0, x, y);
      const c = local(arc.cx, arc.cy);
      const { ux, uy, vx, vy, startRad, sweepRad } = arc;
      curves.push({
        ...own,
        arc,
        at: (t) => {
          const [cos, sin] = [Math.cos(startRad + sweepRad * t), Math.sin(startRad + sweepRad * t)];
          return { x: c.x + ux * cos + vx * sin, y: c.y + uy * cos + vy * sin };
        },
        derivative: (t) => {
          const [cos, sin] = [Math.cos(startRad + sweepRad * t), Math.sin(startRad + sweepRad * t)];
          return { x: sweepRad * (vx * cos - ux * sin), y: sweepRad * (vy * cos - uy * sin) };
        },
        bend: sweepRad * sweepRad * Math.hypot(Math.hypot(ux, uy), Math.hypot(vx, vy)),
        isLine: false,
        parts: Math.max(4, Math.ceil(Math.abs(sweepRad) / (Math.PI / 8))),
      });
    },
  });
  return curves;
}

/** Whether an arc is of a circle: half-axes of one length at right angles. */
export function radiusOf({ ux, uy, vx, vy }: ArcShape): number | null {
  const radius = Math.hypot(ux, uy);
  const isRound =
    Math.abs(Math.hypot(vx, vy) - radius) <= 1e-9 * radius && Math.abs(ux * vx + uy * vy) <= 1e-9 * radius * radius;
  return isRound ? radius : null;
}

/** The whole way round and back to its beginning. */
export const isClosedArc = ({ sweepRad }: ArcShape): boolean => Math.abs(sweepRad) >= 2 * Math.PI - 1e-9;

/**
 * Parameters where a function along a curve is zero: changes of sign between parts, then halved until no double lies
 * between.
 */
export function rootsAlong(parts: number, f: (t: number) => number): number[] {
  const roots: number[] = [];
  let [t0, f0] = [0, f(0)];
  for (let part = 1; part <= parts; part++) {
    const t1 = part / parts;
    const f1 = f(t1);
    if (f0 === 0) roots.push(t0);
    else if (f0 < 0 !== f1 < 0 && f1 !== 0) roots.push(halved(f, t0, f0, t1, f1));
    [t0, f0] = [t1, f1];
  }
  if (f0 === 0) roots.push(1);
  return roots;
}

/** The Illinois form of the false position (M. Dowell, P. Jarratt, BIT 11, 1971), with halvings where it is slow. */
function halved(f: (t: number) => number, t0: number, f0: number, t1: number, f1: number): number {
  let [a, fa, b, fb] = [t0, f0, t1, f1];
  for (let step = 0; step < 80 && Math.abs(b - a) > 1e-16 * Math.max(Math.abs(a), Math.abs(b)); step++) {
    const guess = step % 3 === 2 ? (a + b) / 2 : b - (fb * (b - a)) / (fb - fa);
    const t = guess > Math.min(a, b) && guess < Math.max(a, b) ? guess : (a + b) / 2;
    if (t === a || t === b) break;
    const ft = f(t);
    if (ft === 0) return t;
    if (ft < 0 !== fb < 0) [a, fa] = [b, fb];
    else fa /= 2;
    [b, fb] = [t, ft];
  }
  return Math.abs(fa) < Math.abs(fb) ? a : b;
}

/** Places and weights of Gauss and Legendre's rule of five points, on −1 … 1. */
const gauss: readonly (readonly [place: number, weight: number])[] = [
  [0, 0.5688888888888889],
  [0.5384693101056831, 0.47862867049936647],
  [-0.5384693101056831, 0.47862867049936647],
  [0.906179845938664, 0.23692688505618908],
  [-0.906179845938664, 0.23692688505618908],
];

/** Length of a curve up to a parameter. */
function lengthTo({ derivative, parts }: Curve, t: number): number {
  const steps = 2 * parts;
  let length = 0;
  for (let step = 0; step < steps; step++) {
    const [from, half] = [(t * step) / steps, t / steps / 2];
    for (const [place, weight] of gauss) {
      const { x, y } = derivative(from + half * (1 + place));
      length += weight * half * Math.hypot(x, y);
    }
  }
  return length;
}

/** Half-way along by length, local. */
export function middleOf(curve: Curve): Vec2 {
  const { arc, at } = curve;
  if (curve.isLine || (arc && radiusOf(arc) !== null)) return at(0.5);
  const half = lengthTo(curve, 1) / 2;
  const [t = 0.5] = rootsAlong(1, (t) => lengthTo(curve, t) - half);
  return at(t);
}

/** Stretches of a curve that come into the square about the origin, each nearly straight there. */
export function spansNear({ at, bend, isLine }: Curve, radius: number): (readonly [t0: number, t1: number])[] {
  const spans: (readonly [number, number])[] = [];
  const look = (t0: number, p0: Vec2, t1: number, p1: Vec2): void => {
    const error = ((t1 - t0) * (t1 - t0) * bend) / 8;
    const isAway =
      Math.min(p0.x, p1.x) - error > radius ||
      Math.max(p0.x, p1.x) + error < -radius ||
      Math.min(p0.y, p1.y) - error > radius ||
      Math.max(p0.y, p1.y) + error < -radius;
    if (isAway) return;
    if (isLine || error <= 0.02 * radius || t1 - t0 < 1e-12) {
      spans.push([t0, t1]);
      return;
    }
    const middle = (t0 + t1) / 2;
    const p = at(middle);
    look(t0, p0, middle, p);
    look(middle, p, t1, p1);
  };
  look(0, at(0), 1, at(1));
  return spans;
}
