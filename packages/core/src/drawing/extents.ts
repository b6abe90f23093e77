import { visitPath, type ArcShape, type Path } from './path.ts';

/** Receives points whose box is the tight box of what was walked. */
export type PointSink = (x: number, y: number) => void;

/**
 * Names the points that decide a path's axis-aligned box: ends, and where a curve turns back in x or y.
 * Control points are not on the curve and are never named. Strokes are not widened.
 */
export function visitExtremes(path: Path, sink: PointSink): void {
  visitPath(path, {
    move: sink,
    line: (_x0, _y0, x, y) => sink(x, y),
    quadratic: (x0, y0, cx, cy, x, y) => {
      sink(x, y);
      for (const t of [turnOfQuadratic(x0, cx, x), turnOfQuadratic(y0, cy, y)]) {
        if (t > 0 && t < 1) sink(quadraticAt(x0, cx, x, t), quadraticAt(y0, cy, y, t));
      }
    },
    cubic: (x0, y0, ax, ay, bx, by, x, y) => {
      sink(x, y);
      for (const t of [...turnsOfCubic(x0, ax, bx, x), ...turnsOfCubic(y0, ay, by, y)]) {
        if (t > 0 && t < 1) sink(cubicAt(x0, ax, bx, x, t), cubicAt(y0, ay, by, y, t));
      }
    },
    arc: (_x0, _y0, arc, x, y) => {
      sink(x, y);
      for (const t of turnsOfArc(arc)) {
        sink(
          arc.cx + arc.ux * Math.cos(t) + arc.vx * Math.sin(t),
          arc.cy + arc.uy * Math.cos(t) + arc.vy * Math.sin(t),
        );
      }
    },
  });
}

/** One coordinate of a quadratic Bézier curve (Bernstein form). @param t 0 at the start, 1 at the end */
export const quadraticAt = (p0: number, c: number, p1: number, t: number): number => {
  const s = 1 - t;
  return s * s * p0 + 2 * s * t * c + t * t * p1;
};

/** One coordinate of a cubic Bézier curve (Bernstein form). @param t 0 at the start, 1 at the end */
export const cubicAt = (p0: number, a: number, b: number, p1: number, t: number): number => {
  const s = 1 - t;
  return s * s * s * p0 + 3 * s * s * t * a + 3 * s * t * t * b + t * t * t * p1;
};

function turnOfQuadratic(p0: number, c: number, p1: number): number {
  return (p0 - c) / (p0 - 2 * c + p1);
}

/** Parameters where a cubic's derivative is 0 in one coordinate; the stable form of the quadratic formula. */
function turnsOfCubic(p0: number, a: number, b: number, p1: number): number[] {
  const qa = p1 - p0 + 3 * (a - b);
  const qb = 2 * (p0 - 2 * a + b);
  const qc = a - p0;
  const scale = Math.max(Math.abs(qa), Math.abs(qb), Math.abs(qc));
  if (Math.abs(qa) <= 1e-14 * scale) return qb === 0 ? [] : [-qc / qb];
  const under = qb * qb - 4 * qa * qc;
  if (under < 0) return [];
  const q = -0.5 * (qb + (qb < 0 ? -1 : 1) * Math.sqrt(under));
  return q === 0 ? [0] : [q / qa, qc / q];
}

/** Angles within the sweep where the arc turns back in x or y. */
function turnsOfArc(arc: ArcShape): number[] {
  const turns: number[] = [];
  const from = Math.min(arc.startRad, arc.startRad + arc.sweepRad);
  const to = Math.max(arc.startRad, arc.startRad + arc.sweepRad);
  for (const base of [Math.atan2(arc.vx, arc.ux), Math.atan2(arc.vy, arc.uy)]) {
    for (let k = Math.ceil((from - base) / Math.PI); base + k * Math.PI <= to; k++) turns.push(base + k * Math.PI);
  }
  return turns;
}
