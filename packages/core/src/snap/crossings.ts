import {
  addDd,
  crossDd,
  divideDd,
  multiplyDd,
  negateDd,
  twoSum,
  type DoubleDouble,
} from '../geometry/double-double.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { spansNear, type Curve } from './curve.ts';

const dd = (a: number): DoubleDouble => ({ hi: a, lo: 0 });

/**
 * Where two lines cross, ends included; none if they are parallel. In twice the digits of doubles, so that the answer is
 * the double next to the exact place, however flat the angle.
 */
export function crossingOfLines(a: Vec2, b: Vec2, c: Vec2, d: Vec2): Vec2 | null {
  const [ux, uy] = [twoSum(b.x, -a.x), twoSum(b.y, -a.y)];
  const [vx, vy] = [twoSum(d.x, -c.x), twoSum(d.y, -c.y)];
  const turn = crossDd(ux, uy, vx, vy);
  if (turn.hi === 0) return null;
  const [wx, wy] = [twoSum(c.x, -a.x), twoSum(c.y, -a.y)];
  const s = divideDd(crossDd(wx, wy, vx, vy), turn);
  const t = divideDd(crossDd(wx, wy, ux, uy), turn);
  if (s.hi < 0 || t.hi < 0 || isAboveOne(s) || isAboveOne(t)) return null;
  const x = addDd(dd(a.x), multiplyDd(s, ux));
  const y = addDd(dd(a.y), multiplyDd(s, uy));
  return { x: x.hi + x.lo, y: y.hi + y.lo };
}

const isAboveOne = (s: DoubleDouble): boolean => addDd(s, negateDd(dd(1))).hi > 0;

/** Ends of a stretch may be missed by so much of it. */
const SLACK = 0.05;
const MOST_STEPS = 40;

/**
 * Where two curves cross within a distance of the origin. Stretches that are nearly straight there tell about where, then
 * Newton's method in both parameters finds the place itself.
 */
export function crossingsNear(a: Curve, b: Curve, radius: number): Vec2[] {
  if (a.isLine && b.isLine) {
    if (crossesFarAway(a, b, radius)) return [];
    const crossing = crossingOfLines(a.from, a.to, b.from, b.to);
    return crossing ? [crossing] : [];
  }
  const found: Vec2[] = [];
  const spansOfB = spansNear(b, radius);
  for (const [s0, s1] of spansNear(a, radius)) {
    for (const [t0, t1] of spansOfB) {
      const guess = aboutWhere(a.at(s0), a.at(s1), b.at(t0), b.at(t1));
      if (!guess) continue;
      const place = polished(a, b, s0 + (s1 - s0) * guess.s, t0 + (t1 - t0) * guess.t);
      const isKnown = (p: Vec2): boolean => found.some(({ x, y }) => Math.hypot(x - p.x, y - p.y) < 1e-9 * radius);
      if (place && !isKnown(place)) found.push(place);
    }
  }
  return found;
}

/** Lines that cross at a smaller angle than this, radians, aren't told about where by doubles alone. */
const LEAST_ANGLE = 1e-5;
/** Longer lines, as multiples of the radius, aren't either. */
const LONG = 1e6;

/** Whether two lines surely cross far from the origin, by a quick look: most pairs of lines near a place do. */
function crossesFarAway({ from: a, to: b }: Curve, { from: c, to: d }: Curve, radius: number): boolean {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, d.x - c.x, d.y - c.y];
  const turn = ux * vy - uy * vx;
  const [ofU, ofV] = [ux * ux + uy * uy, vx * vx + vy * vy];
  if (turn * turn < LEAST_ANGLE * LEAST_ANGLE * ofU * ofV) return false;
  if (Math.max(ofU, ofV) > LONG * LONG * radius * radius) return false;
  const s = ((c.x - a.x) * vy - (c.y - a.y) * vx) / turn;
  // of a double's rounding hardly a thousandth of the radius is left here
  return Math.abs(a.x + s * ux) > 2 * radius || Math.abs(a.y + s * uy) > 2 * radius;
}

function aboutWhere(a0: Vec2, a1: Vec2, b0: Vec2, b1: Vec2): { readonly s: number; readonly t: number } | null {
  const [ux, uy, vx, vy] = [a1.x - a0.x, a1.y - a0.y, b1.x - b0.x, b1.y - b0.y];
  const turn = ux * vy - uy * vx;
  if (turn === 0) return null;
  const [wx, wy] = [b0.x - a0.x, b0.y - a0.y];
  const [s, t] = [(wx * vy - wy * vx) / turn, (wx * uy - wy * ux) / turn];
  return Math.abs(s - 0.5) <= 0.5 + SLACK && Math.abs(t - 0.5) <= 0.5 + SLACK ? { s, t } : null;
}

function polished(a: Curve, b: Curve, s0: number, t0: number): Vec2 | null {
  let [s, t] = [s0, t0];
  for (let step = 0; step < MOST_STEPS; step++) {
    const [p, q] = [a.at(s), b.at(t)];
    const [u, v] = [a.derivative(s), b.derivative(t)];
    const turn = u.x * v.y - u.y * v.x;
    if (turn === 0) return null;
    const [wx, wy] = [q.x - p.x, q.y - p.y];
    const [ds, dt] = [(wx * v.y - wy * v.x) / turn, (wx * u.y - wy * u.x) / turn];
    [s, t] = [s + ds, t + dt];
    if (Math.abs(ds) < 1e-15 && Math.abs(dt) < 1e-15) break;
    if (step === MOST_STEPS - 1 && Math.abs(ds) + Math.abs(dt) > 1e-12) return null;
  }
  const isOn = (k: number): boolean => k >= -1e-12 && k <= 1 + 1e-12;
  if (!isOn(s) || !isOn(t)) return null;
  // of a line the place has all digits
  return a.isLine ? b.at(t) : a.at(s);
}
