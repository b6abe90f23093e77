import { zOrder3 } from '../spatial/z-order.ts';

/** A set of more points than this is drawn in pieces. */
export const MOST_POINTS = 8192;

/** So many points cost what a triangle does. */
export const POINTS_PER_WEIGHT = 4;

/** A piece of a set of points. */
export interface PointPiece {
  /** Which points of the set. */
  readonly points: Uint32Array;
  /** The gaps that it fills, drawing units: so far apart lie the points of the piece above it. ∞ for the first. */
  readonly gap: number;
}

/**
 * Takes a set of points apart so that a coarse view needs few of them: the first piece is an even sample of all, eight
 * more lie between its points, and so on (additive refinement of 3D Tiles 1.1, as it is used for clouds of points).
 * @param positions x, y, z a point
 */
export function pointPieces(positions: Float64Array): PointPiece[] {
  const pieces: PointPiece[] = [];
  const divide = (points: Uint32Array, gap: number): void => {
    if (points.length <= MOST_POINTS) {
      pieces.push({ points, gap });
      return;
    }
    // along the curve neighbours follow each other: every k-th point is an even sample
    const sample = new Uint32Array(MOST_POINTS);
    const rest = new Uint32Array(points.length - MOST_POINTS);
    let [taken, left] = [0, 0];
    for (let i = 0; i < points.length; i++) {
      if (taken < MOST_POINTS && i >= Math.floor((taken * points.length) / MOST_POINTS)) sample[taken++] = points[i]!;
      else rest[left++] = points[i]!;
    }
    pieces.push({ points: sample, gap });
    const between = longestSide(positions, sample) / Math.sqrt(MOST_POINTS);
    const parts = Math.min(8, Math.ceil(rest.length / MOST_POINTS));
    for (let part = 0; part < parts; part++)
      divide(
        rest.subarray(Math.floor((part * rest.length) / parts), Math.floor(((part + 1) * rest.length) / parts)),
        between,
      );
  };
  const count = positions.length / 3;
  for (let first = 0; first < count; first += POINTS_IN_KEY)
    divide(alongCurve(positions, first, Math.min(first + POINTS_IN_KEY, count)), Infinity);
  return pieces;
}

function alongCurve(positions: Float64Array, first: number, end: number): Uint32Array {
  const [low, high] = reachOf(positions);
  const size = Math.max(...high.map((value, axis) => value - low[axis]!), Number.MIN_VALUE);
  // the place on the curve and the point in one double: a sort of numbers needs no function
  const keys = new Float64Array(end - first);
  for (let point = first; point < end; point++) {
    const at = 3 * point;
    const place = zOrder3(
      (positions[at]! - low[0]!) / size,
      (positions[at + 1]! - low[1]!) / size,
      (positions[at + 2]! - low[2]!) / size,
    );
    keys[point - first] = place * POINTS_IN_KEY + (point - first);
  }
  keys.sort();
  return Uint32Array.from(keys, (key) => first + (key % POINTS_IN_KEY));
}

/** 2³⁰ places by so many points fill the 53 bits of a double. */
const POINTS_IN_KEY = 2 ** 23;

function reachOf(positions: Float64Array): [low: number[], high: number[]] {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3;
    const value = positions[i]!;
    if (value < low[axis]!) low[axis] = value;
    if (value > high[axis]!) high[axis] = value;
  }
  return [low, high];
}

function longestSide(positions: Float64Array, points: Uint32Array): number {
  const own = new Float64Array(3 * points.length);
  points.forEach((point, i) => own.set(positions.subarray(3 * point, 3 * point + 3), 3 * i));
  const [low, high] = reachOf(own);
  return Math.max(...high.map((value, axis) => value - low[axis]!));
}
