/** Which points stay, and the stretches still to be looked at: kept, since most lines are short and there are millions. */
let stays = new Uint8Array(64);
const stack: number[] = [];

/**
 * Leaves out points of a polyline that lie within a tolerance of what remains.
 * Source: D. H. Douglas and T. K. Peucker, "Algorithms for the reduction of the number of points required to represent
 * a digitized line or its caricature", Cartographica 10 (1973).
 * @param xy x, y pairs from index `start` on, `count` points
 * @param tolerance drawing units
 * @returns the indices of the points that stay, rising, counted from the first; first and last always stay
 */
export function simplify(xy: ArrayLike<number>, start: number, count: number, tolerance: number): number[] {
  if (count <= 2) return count === 2 ? [0, 1] : count === 1 ? [0] : [];
  if (stays.length < count) stays = new Uint8Array(2 * count);
  stays.fill(0, 0, count);
  stays[0] = stays[count - 1] = 1;
  stack.push(0, count - 1);
  while (stack.length > 0) {
    const to = stack.pop()!;
    const from = stack.pop()!;
    let farthest = -1;
    let distance = tolerance * tolerance;
    const x0 = xy[start + 2 * from]!;
    const y0 = xy[start + 2 * from + 1]!;
    const dx = xy[start + 2 * to]! - x0;
    const dy = xy[start + 2 * to + 1]! - y0;
    const length2 = dx * dx + dy * dy;
    for (let i = from + 1; i < to; i++) {
      const px = xy[start + 2 * i]! - x0;
      const py = xy[start + 2 * i + 1]! - y0;
      // distance to the chord itself, not to its line: a ring or a turn back must not vanish
      const t = length2 > 0 ? Math.min(Math.max((px * dx + py * dy) / length2, 0), 1) : 0;
      const away = (px - dx * t) ** 2 + (py - dy * t) ** 2;
      if (away > distance) {
        distance = away;
        farthest = i;
      }
    }
    if (farthest < 0) continue;
    stays[farthest] = 1;
    if (farthest - from > 1) stack.push(from, farthest);
    if (to - farthest > 1) stack.push(farthest, to);
  }
  const kept: number[] = [];
  for (let i = 0; i < count; i++) if (stays[i] === 1) kept.push(i);
  // what is smaller than the tolerance still has an extent: its farthest point stays, so that it leaves ink
  if (kept.length === 2 && xy[start] === xy[start + 2 * count - 2] && xy[start + 1] === xy[start + 2 * count - 1]) {
    kept.splice(1, 0, farthestFromFirst(xy, start, count));
  }
  return kept;
}

function farthestFromFirst(xy: ArrayLike<number>, start: number, count: number): number {
  let best = 1;
  let distance = -1;
  for (let i = 1; i < count - 1; i++) {
    const away = (xy[start + 2 * i]! - xy[start]!) ** 2 + (xy[start + 2 * i + 1]! - xy[start + 1]!) ** 2;
    if (away > distance) [best, distance] = [i, away];
  }
  return best;
}
