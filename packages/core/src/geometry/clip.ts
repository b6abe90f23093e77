/** Clipping against an axis-aligned box in the plane, in doubles. */

export interface Box2 {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/**
 * The part of a segment that lies in a box, as shares of its length.
 * Source: Y.-D. Liang and B. A. Barsky, "A new concept and method for line clipping", ACM TOG 3 (1984).
 * @param out receives the shares 0 … 1 where the inside begins and ends; left alone if nothing is inside
 * @returns whether any part is inside
 */
export function clipSegment(x0: number, y0: number, x1: number, y1: number, box: Box2, out: [number, number]): boolean {
  const dx = x1 - x0;
  const dy = y1 - y0;
  let from = 0;
  let to = 1;
  // p·t ≤ q for each side of the box
  for (let side = 0; side < 4; side++) {
    const p = side === 0 ? -dx : side === 1 ? dx : side === 2 ? -dy : dy;
    const q = side === 0 ? x0 - box.minX : side === 1 ? box.maxX - x0 : side === 2 ? y0 - box.minY : box.maxY - y0;
    if (p === 0) {
      if (q < 0) return false;
    } else if (p < 0) from = Math.max(from, q / p);
    else to = Math.min(to, q / p);
    if (from > to) return false;
  }
  out[0] = from;
  out[1] = to;
  return true;
}

/**
 * The part of a polygon that lies in a box. Of a convex one it is a convex ring; of any other a ring that winds as
 * often about every point inside the box as the whole did, which may run along the box's sides.
 * Source: I. E. Sutherland and G. W. Hodgman, "Reentrant polygon clipping", CACM 17 (1974).
 * @param ring x, y pairs, not closed
 * @returns x, y pairs; empty if nothing is inside
 */
export function clipRing(ring: readonly number[], box: Box2): number[] {
  let points: readonly number[] = ring;
  for (let side = 0; side < 4; side++) {
    const axis = side >> 1;
    const limit = [box.minX, box.maxX, box.minY, box.maxY][side]!;
    const sign = side % 2 === 0 ? 1 : -1;
    const inside = (i: number): number => sign * (points[i + axis]! - limit);
    const kept: number[] = [];
    for (let i = 0; i < points.length; i += 2) {
      const j = (i + 2) % points.length;
      const here = inside(i);
      const next = inside(j);
      if (here >= 0) kept.push(points[i]!, points[i + 1]!);
      if (here >= 0 !== next >= 0) {
        const t = here / (here - next);
        const crossing = [
          points[i]! + (points[j]! - points[i]!) * t,
          points[i + 1]! + (points[j + 1]! - points[i + 1]!) * t,
        ];
        crossing[axis] = limit; // exactly, so that what runs along a side lies on one line
        kept.push(crossing[0]!, crossing[1]!);
      }
    }
    if (kept.length === 0) return [];
    points = kept;
  }
  return [...points];
}
