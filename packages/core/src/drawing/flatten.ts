import type { Box2 } from '../geometry/clip.ts';
import { cubicAt, quadraticAt } from './extents.ts';
import { visitPath, type Path } from './path.ts';

/**
 * Receives the polyline of a path: `move` begins a run, `line` goes on, `close` says that the run came back to its
 * beginning (the line there was already told).
 */
export interface PolylineSink {
  move: (x: number, y: number) => void;
  line: (x: number, y: number) => void;
  close: () => void;
}

/** Chord error of a flattened curve as a share of its own size: 0.004 is 0.4 px on a circle 200 px wide. */
export const RELATIVE_CHORD_ERROR = 0.004;
/** A curve is halved no more often than this: 65,536 chords. */
const MAX_HALVINGS = 16;

/** Where and how closely a polyline keeps to its curves. */
export interface Closeness {
  /** The greatest distance of a chord from its curve, given the curve's size; drawing units. */
  readonly chordError: (size: number) => number;
  /** Only what comes near this box is divided; the rest becomes single chords. The whole plane if left out. */
  readonly region?: Box2;
}

const relative: Closeness = { chordError: (size) => RELATIVE_CHORD_ERROR * size };

/** Keeps to curves everywhere by a length. @param chordError drawing units */
export const within = (chordError: number, region?: Box2): Closeness => ({
  chordError: () => chordError,
  ...(region ? { region } : {}),
});

/**
 * Turns curves into chords by halving their parameter until each chord is close enough. The distance of a chord over
 * a parameter step h is at most h²/8 times the greatest second derivative (P. J. Davis, "Interpolation and
 * Approximation", 1963, theorem 3.1.1), which also bounds the box that a piece can reach.
 */
export function flattenPath(path: Path, sink: PolylineSink, closeness: Closeness = relative): void {
  const { chordError, region } = closeness;
  visitPath(path, {
    move: sink.move,
    line: (_x0, _y0, x, y) => sink.line(x, y),
    close: sink.close,
    quadratic: (x0, y0, cx, cy, x, y) => {
      const size = Math.max(lengthOf(cx - x0, cy - y0), lengthOf(x - cx, y - cy));
      const bend = 2 * lengthOf(x0 - 2 * cx + x, y0 - 2 * cy + y);
      if (region) {
        const at = (t: number): Place => [quadraticAt(x0, cx, x, t), quadraticAt(y0, cy, y, t)];
        halve(at, [x0, y0], [x, y], bend, sink, chordError(size), region);
        return;
      }
      const steps = evenSteps(bend, chordError(size));
      for (let i = 1; i < steps; i++) sink.line(quadraticAt(x0, cx, x, i / steps), quadraticAt(y0, cy, y, i / steps));
      sink.line(x, y);
    },
    cubic: (x0, y0, ax, ay, bx, by, x, y) => {
      const size = Math.max(lengthOf(ax - x0, ay - y0), lengthOf(bx - ax, by - ay), lengthOf(x - bx, y - by));
      const bend =
        6 * Math.max(lengthOf(x0 - 2 * ax + bx, y0 - 2 * ay + by), lengthOf(ax - 2 * bx + x, ay - 2 * by + y));
      if (region) {
        const at = (t: number): Place => [cubicAt(x0, ax, bx, x, t), cubicAt(y0, ay, by, y, t)];
        halve(at, [x0, y0], [x, y], bend, sink, chordError(size), region);
        return;
      }
      const steps = evenSteps(bend, chordError(size));
      for (let i = 1; i < steps; i++) sink.line(cubicAt(x0, ax, bx, x, i / steps), cubicAt(y0, ay, by, y, i / steps));
      sink.line(x, y);
    },
    arc: (x0, y0, arc, x, y) => {
      const size = Math.max(lengthOf(arc.ux, arc.uy), lengthOf(arc.vx, arc.vy));
      // |second derivative| ≤ sweep² times the largest half-axis of the ellipse, which is at most √2 of a conjugate one
      const isRound = Math.abs(arc.ux * arc.vx + arc.uy * arc.vy) < 1e-9 * size * size;
      const most = isRound ? size : lengthOf(lengthOf(arc.ux, arc.uy), lengthOf(arc.vx, arc.vy));
      const bend = arc.sweepRad * arc.sweepRad * most;
      const at = (t: number): Place => {
        const cos = Math.cos(arc.startRad + arc.sweepRad * t);
        const sin = Math.sin(arc.startRad + arc.sweepRad * t);
        return [arc.cx + arc.ux * cos + arc.vx * sin, arc.cy + arc.uy * cos + arc.vy * sin];
      };
      if (region) {
        halve(at, [x0, y0], [x, y], bend, sink, chordError(size), region);
        return;
      }
      const steps = evenSteps(bend, chordError(size));
      for (let i = 1; i < steps; i++) sink.line(...at(i / steps));
      sink.line(x, y);
    },
  });
}

/** `Math.hypot` takes twenty times as long, for lengths whose squares a double can't hold. */
const lengthOf = (x: number, y: number): number => Math.sqrt(x * x + y * y);

type Place = readonly [number, number];

/** How many equal steps a curve takes where the bound is the same everywhere. */
const evenSteps = (bend: number, wanted: number): number =>
  Math.min(Math.max(Math.ceil(Math.sqrt(bend / (8 * wanted))), 1), 2 ** MAX_HALVINGS);

function halve(
  at: (t: number) => Place,
  start: Place,
  end: Place,
  bend: number,
  sink: PolylineSink,
  wanted: number,
  region: Box2,
): void {
  const piece = (t0: number, p0: Place, t1: number, p1: Place, halvings: number): void => {
    const error = ((t1 - t0) * (t1 - t0) * bend) / 8;
    const isAway =
      Math.max(p0[0], p1[0]) + error < region.minX ||
      Math.min(p0[0], p1[0]) - error > region.maxX ||
      Math.max(p0[1], p1[1]) + error < region.minY ||
      Math.min(p0[1], p1[1]) - error > region.maxY;
    if (error <= wanted || isAway || halvings === MAX_HALVINGS) {
      sink.line(...p1);
      return;
    }
    const middle = (t0 + t1) / 2;
    const p = at(middle);
    piece(t0, p0, middle, p, halvings + 1);
    piece(middle, p, t1, p1, halvings + 1);
  };
  piece(0, start, 1, end, 0);
}
