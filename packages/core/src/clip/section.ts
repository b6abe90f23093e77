import { triangulate } from '../drawing/triangulate.ts';
import { dot3, sub3, type Vec3 } from '../geometry/vec.ts';
import type { ClipFace } from './clip-volume.ts';

/**
 * Adds the lines in which triangles meet a plane, in the plane's own coordinates about its middle.
 * @param positions x, y, z triples relative to `origin`
 * @param from, to which indices of triangles to look at
 * @param lines x0, y0, x1, y1 of each line are put there
 */
export function cutTriangles(
  { positions, triangles }: { readonly positions: ArrayLike<number>; readonly triangles: ArrayLike<number> },
  [from, to]: readonly [number, number],
  origin: Vec3,
  { middle, normal, u, v }: ClipFace,
  lines: number[],
): void {
  const shift = sub3(origin, middle);
  const [sn, su, sv] = [dot3(shift, normal), dot3(shift, u), dot3(shift, v)];
  const height = (at: number): number =>
    positions[at]! * normal.x + positions[at + 1]! * normal.y + positions[at + 2]! * normal.z + sn;
  for (let i = from; i + 2 < to; i += 3) {
    const [a, b, c] = [3 * triangles[i]!, 3 * triangles[i + 1]!, 3 * triangles[i + 2]!];
    const [ha, hb, hc] = [height(a), height(b), height(c)];
    // what lies in the plane counts as above, so that every crossing is met exactly twice
    const [isA, isB, isC] = [ha >= 0, hb >= 0, hc >= 0];
    if (isA === isB && isB === isC) continue;
    let found = 0;
    const place = (p: number, hp: number, q: number, hq: number): void => {
      // always from the lower end: triangles that share an edge get the very same point
      const [low, high, hl, hh] = hp < hq ? [p, q, hp, hq] : [q, p, hq, hp];
      const share = hl / (hl - hh);
      const [startX, startY, startZ] = [positions[low]!, positions[low + 1]!, positions[low + 2]!];
      const x = startX + (positions[high]! - startX) * share;
      const y = startY + (positions[high + 1]! - startY) * share;
      const z = startZ + (positions[high + 2]! - startZ) * share;
      lines.push(x * u.x + y * u.y + z * u.z + su, x * v.x + y * v.y + z * v.z + sv);
      found++;
    };
    if (isA !== isB) place(a, ha, b, hb);
    if (isB !== isC) place(b, hb, c, hc);
    if (isC !== isA && found < 2) place(c, hc, a, ha);
    const last = lines.length;
    if (lines[last - 4] === lines[last - 2] && lines[last - 3] === lines[last - 1]) lines.length -= 4;
  }
}

/**
 * Lines joined to rings.
 * @param lines x0, y0, x1, y1 of each
 * @param tolerance ends so near to each other are one
 * @returns x, y pairs of each closed ring; chains that don't close enclose nothing and are left out
 */
export function ringsOf(lines: readonly number[], tolerance: number): number[][] {
  const cell = Math.max(2 * tolerance, Number.MIN_VALUE);
  const ends = new Map<string, number[]>();
  const keyOf = (i: number, j: number): string => `${i} ${j}`;
  const count = lines.length / 2;
  for (let end = 0; end < count; end++) {
    const key = keyOf(Math.floor(lines[2 * end]! / cell), Math.floor(lines[2 * end + 1]! / cell));
    const known = ends.get(key);
    if (known) known.push(end);
    else ends.set(key, [end]);
  }
  const isUsed = new Uint8Array(count / 2);
  const nextOf = (end: number): number => {
    const [x, y] = [lines[2 * end]!, lines[2 * end + 1]!];
    const [i, j] = [Math.floor(x / cell), Math.floor(y / cell)];
    let [best, nearest] = [-1, tolerance];
    for (let di = -1; di <= 1; di++)
      for (let dj = -1; dj <= 1; dj++)
        for (const other of ends.get(keyOf(i + di, j + dj)) ?? []) {
          if (isUsed[other >> 1]) continue;
          const distance = Math.hypot(lines[2 * other]! - x, lines[2 * other + 1]! - y);
          if (distance <= nearest) [best, nearest] = [other, distance];
        }
    return best;
  };
  const rings: number[][] = [];
  for (let line = 0; line < count / 2; line++) {
    if (isUsed[line]) continue;
    isUsed[line] = 1;
    const ring = [lines[4 * line]!, lines[4 * line + 1]!];
    let end = 2 * line + 1;
    for (;;) {
      const next = nextOf(end);
      if (next < 0) break;
      isUsed[next >> 1] = 1;
      ring.push(lines[2 * next]!, lines[2 * next + 1]!);
      end = next ^ 1;
    }
    const closes = Math.hypot(lines[2 * end]! - ring[0]!, lines[2 * end + 1]! - ring[1]!) <= tolerance;
    if (closes && ring.length >= 6) rings.push(ring);
  }
  return rings;
}

/**
 * The cut area of one solid in a side of a volume.
 * @param lines as {@link cutTriangles} makes them of all its triangles
 * @returns x, y pairs, three points a triangle, in the side's coordinates; nothing beyond the side
 */
export function capOf(lines: readonly number[], { halfU, halfV }: ClipFace, tolerance: number): number[] {
  const triangles = triangulate(ringsOf(lines, tolerance), 'evenodd') ?? [];
  if (!Number.isFinite(halfU)) return triangles;
  const kept: number[] = [];
  for (let i = 0; i + 5 < triangles.length; i += 6) {
    const ring = clipToSide(triangles.slice(i, i + 6), halfU, halfV);
    for (let k = 2; k + 3 < ring.length; k += 2)
      kept.push(ring[0]!, ring[1]!, ring[k]!, ring[k + 1]!, ring[k + 2]!, ring[k + 3]!);
  }
  return kept;
}

/** A convex ring cut to a rectangle about the middle (I. Sutherland, G. Hodgman, "Reentrant polygon clipping", 1974). */
function clipToSide(ring: number[], halfU: number, halfV: number): number[] {
  let now = ring;
  for (const [axis, sign, most] of [
    [0, 1, halfU],
    [0, -1, halfU],
    [1, 1, halfV],
    [1, -1, halfV],
  ] as const) {
    const next: number[] = [];
    for (let i = 0; i < now.length; i += 2) {
      const j = (i + 2) % now.length;
      const [a, b] = [most - sign * now[i + axis]!, most - sign * now[j + axis]!];
      if (a >= 0) next.push(now[i]!, now[i + 1]!);
      if (a >= 0 !== b >= 0) {
        const share = a / (a - b);
        next.push(now[i]! + (now[j]! - now[i]!) * share, now[i + 1]! + (now[j + 1]! - now[i + 1]!) * share);
      }
    }
    now = next;
  }
  return now;
}

/** The parts of lines that lie in a side. @param lines x0, y0, x1, y1 of each */
export function linesInSide(lines: readonly number[], { halfU, halfV }: ClipFace): number[] {
  if (!Number.isFinite(halfU)) return [...lines];
  const kept: number[] = [];
  for (let i = 0; i + 3 < lines.length; i += 4) {
    const [x0, y0, x1, y1] = lines.slice(i, i + 4) as [number, number, number, number];
    let [from, to] = [0, 1];
    // Y.-D. Liang, B. Barsky, "A new concept and method for line clipping", 1984
    for (const [way, room] of [
      [x0 - x1, x0 + halfU],
      [x1 - x0, halfU - x0],
      [y0 - y1, y0 + halfV],
      [y1 - y0, halfV - y0],
    ] as const) {
      if (way === 0) {
        if (room < 0) from = 2;
      } else if (way < 0) from = Math.max(from, room / way);
      else to = Math.min(to, room / way);
    }
    if (from < to) kept.push(x0 + (x1 - x0) * from, y0 + (y1 - y0) * from, x0 + (x1 - x0) * to, y0 + (y1 - y0) * to);
  }
  return kept;
}
