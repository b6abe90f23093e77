import type { ArcShape } from '@gull-pane/core/drawing/path';

/** Axes at right angles and the turn of the first, of an ellipse that is told by conjugate half-axes. */
export interface PrincipalAxes {
  readonly rx: number;
  readonly ry: number;
  readonly turnRad: number;
}

/**
 * The principal axes of an ellipse: the singular values of the matrix of its conjugate half-axes, and the direction that
 * belongs to the first. Source: G. H. Golub and C. F. Van Loan, "Matrix Computations", 4th ed., 8.6 (2 by 2, closed form).
 */
export function principalAxes({ ux, uy, vx, vy }: ArcShape): PrincipalAxes {
  const [e, f, g, h] = [(ux + vy) / 2, (ux - vy) / 2, (uy + vx) / 2, (uy - vx) / 2];
  const [q, r] = [Math.hypot(e, h), Math.hypot(f, g)];
  const turnRad = (Math.atan2(g, f) + Math.atan2(h, e)) / 2;
  return { rx: q + r, ry: Math.abs(q - r), turnRad };
}

/** No piece of an arc sweeps more than this: its centre is then well told by its ends and radii. */
const MOST_SWEEP_RAD = (2 * Math.PI) / 3;

/** The ends of the pieces of an arc; the last is the arc's own end, to the last digit. */
export function arcPieces(
  arc: ArcShape,
  endX: number,
  endY: number,
): readonly { readonly x: number; readonly y: number }[] {
  const count = Math.max(Math.ceil(Math.abs(arc.sweepRad) / MOST_SWEEP_RAD - 1e-9), 1);
  return Array.from({ length: count }, (_, k) => {
    if (k === count - 1) return { x: endX, y: endY };
    const t = arc.startRad + (arc.sweepRad * (k + 1)) / count;
    return {
      x: arc.cx + arc.ux * Math.cos(t) + arc.vx * Math.sin(t),
      y: arc.cy + arc.uy * Math.cos(t) + arc.vy * Math.sin(t),
    };
  });
}
