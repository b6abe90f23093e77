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
const MAX_STEPS = 256;

/**
 * Turns curves into chords that stay within `relativeError` of the curve's own size (its control polygon or half-axis).
 * Steps of a Bézier curve by the second difference of its control points (G. Wang, "The subdivision method for finding
 * the intersection between two Bézier curves", 1984); of an arc by the sagitta r·(1 − cos(step/2)).
 */
export function flattenPath(path: Path, sink: PolylineSink, relativeError = RELATIVE_CHORD_ERROR): void {
  visitPath(path, {
    move: sink.move,
    line: (_x0, _y0, x, y) => sink.line(x, y),
    close: sink.close,
    quadratic: (x0, y0, cx, cy, x, y) => {
      const size = Math.max(Math.hypot(cx - x0, cy - y0), Math.hypot(x - cx, y - cy));
      const bend = Math.hypot(x0 - 2 * cx + x, y0 - 2 * cy + y);
      const steps = clampSteps(Math.sqrt(bend / (4 * relativeError * size)));
      for (let i = 1; i < steps; i++) sink.line(quadraticAt(x0, cx, x, i / steps), quadraticAt(y0, cy, y, i / steps));
      sink.line(x, y);
    },
    cubic: (x0, y0, ax, ay, bx, by, x, y) => {
      const size = Math.max(Math.hypot(ax - x0, ay - y0), Math.hypot(bx - ax, by - ay), Math.hypot(x - bx, y - by));
      const bend = Math.max(
        Math.hypot(x0 - 2 * ax + bx, y0 - 2 * ay + by),
        Math.hypot(ax - 2 * bx + x, ay - 2 * by + y),
      );
      const steps = clampSteps(Math.sqrt((3 * bend) / (4 * relativeError * size)));
      for (let i = 1; i < steps; i++) sink.line(cubicAt(x0, ax, bx, x, i / steps), cubicAt(y0, ay, by, y, i / steps));
      sink.line(x, y);
    },
    arc: (_x0, _y0, arc, x, y) => {
      const steps = clampSteps(Math.abs(arc.sweepRad) / (2 * Math.acos(1 - relativeError)));
      for (let i = 1; i < steps; i++) {
        const t = arc.startRad + (arc.sweepRad * i) / steps;
        const cos = Math.cos(t);
        const sin = Math.sin(t);
        sink.line(arc.cx + arc.ux * cos + arc.vx * sin, arc.cy + arc.uy * cos + arc.vy * sin);
      }
      sink.line(x, y);
    },
  });
}

const clampSteps = (steps: number): number => (steps > 1 ? Math.min(Math.ceil(steps), MAX_STEPS) : 1);
