import type { Vec2 } from '../geometry/vec.ts';
import { Op, coordsOfOp, type Path } from './path.ts';

/** What is left of a distance, so that rounding never makes it more than it is. */
const SURELY = 1 - 1e-9;
/** Rounding of a difference of two products, as a share of both. */
const ROUNDING = 1e-15;

/**
 * How near to the origin a straight line comes; by a rounding less, never more.
 * @param ax, ay, bx, by its ends
 */
export function nearnessOfLine(ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const square = dx * dx + dy * dy;
  const along = -(ax * dx + ay * dy);
  if (!(along > 0)) return SURELY * Math.sqrt(ax * ax + ay * ay);
  if (along >= square) return SURELY * Math.sqrt(bx * bx + by * by);
  const first = ax * dy;
  const second = ay * dx;
  const area = Math.abs(first - second) - ROUNDING * (Math.abs(first) + Math.abs(second));
  return area > 0 ? (SURELY * area) / Math.sqrt(square) : 0;
}

/** How near to the origin a box comes; by a rounding less, never more. */
export function nearnessOfBox(minX: number, minY: number, maxX: number, maxY: number): number {
  const dx = Math.max(minX, -maxX, 0);
  const dy = Math.max(minY, -maxY, 0);
  return SURELY * Math.sqrt(dx * dx + dy * dy);
}

/**
 * How near a path's lines come to a place at least: of straight ones exactly but for rounding, of curves by the box of their
 * control points, of arcs by that of the whole ellipse. Copies nothing, so that it costs a few additions a step.
 * @param place, radius drawing units
 * @returns 0 as soon as something is at hand, Infinity if nothing comes within the radius
 */
export function nearnessOf({ ops, coords }: Path, { x: px, y: py }: Vec2, radius: number): number {
  let nearest = Infinity;
  let at = 0;
  let [x0, y0, startX, startY] = [0, 0, 0, 0];
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    const width = coordsOfOp[op]!;
    const x = op === Op.close ? startX : coords[at + width - 2]! - px;
    const y = op === Op.close ? startY : coords[at + width - 1]! - py;
    let distance = Infinity;
    if (op === Op.move) [startX, startY] = [x, y];
    else if (op === Op.line || op === Op.close) distance = nearnessOfLine(x0, y0, x, y);
    else if (op === Op.arc) {
      const cx = coords[at]! - px;
      const cy = coords[at + 1]! - py;
      const reachX = Math.hypot(coords[at + 2]!, coords[at + 4]!);
      const reachY = Math.hypot(coords[at + 3]!, coords[at + 5]!);
      distance = nearnessOfBox(cx - reachX, cy - reachY, cx + reachX, cy + reachY);
    } else {
      let minX = Math.min(x0, x);
      let minY = Math.min(y0, y);
      let maxX = Math.max(x0, x);
      let maxY = Math.max(y0, y);
      for (let k = at; k < at + width - 2; k += 2) {
        minX = Math.min(minX, coords[k]! - px);
        minY = Math.min(minY, coords[k + 1]! - py);
        maxX = Math.max(maxX, coords[k]! - px);
        maxY = Math.max(maxY, coords[k + 1]! - py);
      }
      distance = nearnessOfBox(minX, minY, maxX, maxY);
    }
    if (distance < nearest) {
      if (distance === 0) return 0;
      nearest = distance;
    }
    at += width;
    x0 = x;
    y0 = y;
  }
  return nearest <= radius ? nearest : Infinity;
}
