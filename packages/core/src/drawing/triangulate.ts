import { halve } from './halve.ts';
import type { FillRule } from './model.ts';
import { tessellate } from './tessellate.ts';

/** Areas of more corners are cut into pieces first. */
const MOST_CORNERS = 1500;
/** A cut is worth its while where the larger piece has at most this share of the corners. */
const MOST_LEFT = 0.8;
/** Pieces that no cut makes smaller are still taken up to so many corners. */
const MOST_UNCUT_CORNERS = 4 * MOST_CORNERS;
/** Outlines that cross themselves more often are no honest ones. */
const MOST_CROSSINGS = 100_000;

type Rings = readonly (readonly number[])[];

/** A part of an area in a frame of its own, so that every cut runs exactly along an axis. */
interface Piece {
  readonly rings: Rings;
  /** By how much its frame is turned. */
  readonly angleRad: number;
  /** No cut made it smaller before it was turned. */
  readonly isTurned: boolean;
}

/**
 * Triangles of a filled area under either fill rule, holes and self-crossings included. Large areas are halved at the
 * median of their corners, across x or y or along most of their edges, until the pieces are small: n log n in all, as long
 * as the outline crosses itself rarely.
 * @param rings closed polylines, x, y pairs, without the repeated first point
 * @returns x, y pairs, three points a triangle, in drawing units; null if the outline crosses itself too often to be filled
 */
export function triangulate(rings: Rings, rule: FillRule): number[] | null {
  const usable = rings.filter((ring) => ring.length >= 6);
  const [only] = usable;
  if (only === undefined) return [];
  if (usable.length === 1 && isConvex(only)) return fan(only);
  if (cornersOf(usable) <= MOST_CORNERS) return tessellate(usable, rule, MOST_CROSSINGS);
  const triangles: number[] = [];
  // pieces are turned about a corner: about a distant origin they would lose digits
  const [baseX, baseY] = [only[0]!, only[1]!];
  const near = usable.map((ring) => ring.map((value, i) => value - (i % 2 === 0 ? baseX : baseY)));
  const waiting: Piece[] = [{ rings: near, angleRad: 0, isTurned: false }];
  for (let piece = waiting.pop(); piece; piece = waiting.pop()) {
    const { rings: own, angleRad, isTurned } = piece;
    const corners = cornersOf(own);
    const halves = corners > MOST_CORNERS ? bestCut(own) : null;
    if (halves) for (const half of halves) waiting.push({ rings: half, angleRad, isTurned: false });
    else if (corners > MOST_CORNERS && !isTurned) {
      const along = directionRad(own);
      waiting.push({ rings: own.map((ring) => turned(ring, -along)), angleRad: angleRad + along, isTurned: true });
    } else {
      const filled = corners <= MOST_UNCUT_CORNERS ? tessellate(own, rule, MOST_CROSSINGS) : null;
      if (!filled) return null;
      const placed = angleRad === 0 ? filled : turned(filled, angleRad);
      for (let i = 0; i < placed.length; i += 2) triangles.push(placed[i]! + baseX, placed[i + 1]! + baseY);
    }
  }
  return triangles;
}

/** Which way most of the length of an outline runs: the main axis of its edges' second moments. */
function directionRad(rings: Rings): number {
  let [xx, xy, yy] = [0, 0, 0];
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length;
      const [dx, dy] = [ring[j]! - ring[i]!, ring[j + 1]! - ring[i + 1]!];
      xx += dx * dx;
      xy += dx * dy;
      yy += dy * dy;
    }
  return Math.atan2(2 * xy, xx - yy) / 2;
}

function turned(points: readonly number[], angleRad: number): number[] {
  const [cos, sin] = [Math.cos(angleRad), Math.sin(angleRad)];
  const result: number[] = [];
  for (let i = 0; i < points.length; i += 2) {
    const [x, y] = [points[i]!, points[i + 1]!];
    result.push(x * cos - y * sin, x * sin + y * cos);
  }
  return result;
}

const cornersOf = (rings: Rings): number => rings.reduce((sum, ring) => sum + ring.length / 2, 0);

/** Both parts of an area, cut across x or y; null if no cut leaves smaller parts. */
function bestCut(rings: Rings): readonly [Rings, Rings] | null {
  const all = cornersOf(rings);
  let [best, bestLarger] = [null as readonly [Rings, Rings] | null, MOST_LEFT * all];
  for (const axis of [0, 1] as const) {
    const parts = halve(rings, axis, medianOf(rings, axis));
    const larger = Math.max(...parts.map(cornersOf));
    if (larger < bestLarger) [best, bestLarger] = [parts, larger];
  }
  return best;
}

/** About the middle of all corners along an axis. */
function medianOf(rings: Rings, axis: 0 | 1): number {
  const step = Math.max(1, Math.floor(cornersOf(rings) / 1000));
  const values: number[] = [];
  let k = 0;
  for (const ring of rings) for (let i = axis; i < ring.length; i += 2) if (k++ % step === 0) values.push(ring[i]!);
  values.sort((a, b) => a - b);
  return values[values.length >> 1]!;
}

/** One turn in one direction: every corner turns the same way and the corners add up to a single round. */
function isConvex(ring: readonly number[]): boolean {
  const n = ring.length;
  let sign = 0;
  let flipsX = 0;
  let lastDx = 0;
  for (let i = 0; i < n; i += 2) {
    const dx1 = ring[(i + 2) % n]! - ring[i]!;
    const dy1 = ring[(i + 3) % n]! - ring[i + 1]!;
    const dx2 = ring[(i + 4) % n]! - ring[(i + 2) % n]!;
    const dy2 = ring[(i + 5) % n]! - ring[(i + 3) % n]!;
    const turn = Math.sign(dx1 * dy2 - dy1 * dx2);
    if (turn !== 0 && sign !== 0 && turn !== sign) return false;
    if (turn !== 0) sign = turn;
    if (dx1 !== 0 && lastDx !== 0 && Math.sign(dx1) !== Math.sign(lastDx)) flipsX++;
    if (dx1 !== 0) lastDx = dx1;
  }
  return flipsX <= 2;
}

function fan(ring: readonly number[]): number[] {
  const triangles: number[] = [];
  for (let i = 2; i + 3 < ring.length; i += 2) {
    triangles.push(ring[0]!, ring[1]!, ring[i]!, ring[i + 1]!, ring[i + 2]!, ring[i + 3]!);
  }
  return triangles;
}
