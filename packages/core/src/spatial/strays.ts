import type { Vec2 } from '../geometry/vec.ts';

/** A group of objects so far from the rest that it spoils the extents. Places in the index. */
export interface StrayReport {
  /** Farthest first; empty if nothing is stray. */
  readonly strays: readonly number[];
  /** The box of everything else, drawing units. */
  readonly main: { readonly minX: number; readonly minY: number; readonly maxX: number; readonly maxY: number };
  /** How far the nearest and the farthest stray lie from that box, drawing units. */
  readonly nearest: number;
  readonly farthest: number;
  /** How many objects lie how far from the middle: counts of equal steps of the logarithm of the distance. */
  readonly histogram: readonly { readonly upTo: number; readonly count: number; readonly strays: number }[];
}

/** At most this share of the objects may be stray: more are a part of the drawing in its own right. */
export const MOST_STRAYS = 0.02;
/** Strays are so far from the rest, in sizes of the rest: a gap that spoils a fit by more than that. */
const GAP_SIZES = 1;
/** Tukey's outer fence: this many interquartile ranges beyond a quartile (J. W. Tukey, "Exploratory Data Analysis", 1977). */
const FENCE = 3;
const BARS = 24;

/**
 * Finds strays by the distribution of the objects alone. In each axis an object is suspect when its box lies wholly beyond
 * Tukey's outer fences. Suspects are stray only if they are few, and if the box of all the others leaves a gap to them that
 * is at least as wide as that box's own longer side: so a drawing of two honest halves, or one that thins out, has none.
 * @param boxes minX, minY, maxX, maxY of every object, relative to `origin`
 * @param entries those that count
 */
export function findStrays(boxes: ArrayLike<number>, entries: Uint32Array, origin: Vec2): StrayReport {
  const fences = [fencesOf(boxes, entries, 0), fencesOf(boxes, entries, 1)] as const;
  const isSuspect = (entry: number): boolean =>
    fences.some(([low, high], axis) => boxes[4 * entry + axis]! > high || boxes[4 * entry + axis + 2]! < low);
  let suspects: number[] = [];
  for (const entry of entries) if (isSuspect(entry)) suspects.push(entry);
  let box = boxOf(boxes, entries, new Set(suspects));
  // what comes up close to the rest belongs to it, and draws in what comes up close to that
  for (let before = -1; before !== suspects.length && suspects.length > 0;) {
    before = suspects.length;
    const size = Math.max(box.maxX - box.minX, box.maxY - box.minY);
    suspects = suspects.filter((entry) => gapTo(boxes, entry, box) >= GAP_SIZES * size);
    box = boxOf(boxes, entries, new Set(suspects));
  }
  if (suspects.length > MOST_STRAYS * entries.length && suspects.length > 1) {
    suspects = [];
    box = boxOf(boxes, entries, new Set());
  }
  const gaps = new Map(suspects.map((entry) => [entry, gapTo(boxes, entry, box)]));
  const strays = suspects.sort((a, b) => gaps.get(b)! - gaps.get(a)!);
  return {
    strays,
    main: {
      minX: box.minX + origin.x,
      minY: box.minY + origin.y,
      maxX: box.maxX + origin.x,
      maxY: box.maxY + origin.y,
    },
    nearest: strays.length > 0 ? gaps.get(strays.at(-1)!)! : 0,
    farthest: strays.length > 0 ? gaps.get(strays[0]!)! : 0,
    histogram: histogramOf(boxes, entries, new Set(strays)),
  };
}

type Fences = readonly [low: number, high: number];
const SAMPLES = 50_000;

function fencesOf(boxes: ArrayLike<number>, entries: Uint32Array, axis: number): Fences {
  const step = Math.max(Math.floor(entries.length / SAMPLES), 1);
  const middles: number[] = [];
  for (let i = 0; i < entries.length; i += step) {
    const at = 4 * entries[i]! + axis;
    middles.push((boxes[at]! + boxes[at + 2]!) / 2);
  }
  middles.sort((a, b) => a - b);
  const quantile = (share: number): number => middles[Math.round(share * (middles.length - 1))] ?? 0;
  const [q1, q3] = [quantile(0.25), quantile(0.75)];
  return [q1 - FENCE * (q3 - q1), q3 + FENCE * (q3 - q1)];
}

interface Box {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

function boxOf(boxes: ArrayLike<number>, entries: Uint32Array, without: ReadonlySet<number>): Box {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const entry of entries) {
    if (without.has(entry)) continue;
    box.minX = Math.min(box.minX, boxes[4 * entry]!);
    box.minY = Math.min(box.minY, boxes[4 * entry + 1]!);
    box.maxX = Math.max(box.maxX, boxes[4 * entry + 2]!);
    box.maxY = Math.max(box.maxY, boxes[4 * entry + 3]!);
  }
  return box;
}

/** How far an object's box is from another box; 0 if they meet. */
function gapTo(boxes: ArrayLike<number>, entry: number, box: Box): number {
  const dx = Math.max(boxes[4 * entry]! - box.maxX, box.minX - boxes[4 * entry + 2]!, 0);
  const dy = Math.max(boxes[4 * entry + 1]! - box.maxY, box.minY - boxes[4 * entry + 3]!, 0);
  return Math.hypot(dx, dy);
}

function histogramOf(
  boxes: ArrayLike<number>,
  entries: Uint32Array,
  strays: ReadonlySet<number>,
): StrayReport['histogram'] {
  if (entries.length === 0) return [];
  const middleOf = (axis: number): number => {
    const [low, high] = fencesOf(boxes, entries, axis);
    return (low + high) / 2;
  };
  const [x, y] = [middleOf(0), middleOf(1)];
  const distances = Array.from(entries, (entry) =>
    Math.hypot(
      (boxes[4 * entry]! + boxes[4 * entry + 2]!) / 2 - x,
      (boxes[4 * entry + 1]! + boxes[4 * entry + 3]!) / 2 - y,
    ),
  );
  const farthest = distances.reduce((most, distance) => Math.max(most, distance), 0);
  if (farthest === 0) return [{ upTo: 0, count: entries.length, strays: 0 }];
  // from a thousandth of the farthest on: what is nearer shares the first bar
  const barOf = (distance: number): number =>
    Math.min(Math.max(Math.floor(BARS * (1 + Math.log10(distance / farthest) / 3)), 0), BARS - 1);
  const bars = Array.from({ length: BARS }, (_, bar) => ({
    upTo: farthest * 10 ** (3 * ((bar + 1) / BARS - 1)),
    count: 0,
    strays: 0,
  }));
  distances.forEach((distance, i) => {
    const bar = bars[barOf(distance)]!;
    bar.count++;
    if (strays.has(entries[i]!)) bar.strays++;
  });
  return bars;
}
