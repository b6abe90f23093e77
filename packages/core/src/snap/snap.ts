import type { Vec2 } from '../geometry/vec.ts';
import type { SnapPiece } from './snap-pieces.ts';

export const snapKinds = ['end', 'middle', 'crossing'] as const;
export type SnapKind = (typeof snapKinds)[number];

/** A place that a point is drawn to. */
export interface Snap {
  readonly kind: SnapKind;
  readonly point: Vec2;
}

/** A middle or a crossing must be so much nearer than an end to win: ends are meant most often. */
const PREFERENCE: Readonly<Record<SnapKind, number>> = { end: 1, crossing: 1.25, middle: 1.5 };
/** Crossings are looked for among no more pieces than this: where more lie that close, a closer view is wanted. */
const MOST_PIECES = 400;

/**
 * The place near the cursor that a point is meant for.
 * @param pieces all in one frame, {@link at} too
 * @param radius farther away nothing draws, drawing units
 * @returns null if nothing is near
 */
export function snapNear(pieces: readonly SnapPiece[], at: Vec2, radius: number): Snap | null {
  let best: Snap | null = null;
  let least = Infinity;
  const offer = (kind: SnapKind, point: Vec2): void => {
    const distance = Math.hypot(point.x - at.x, point.y - at.y);
    const felt = distance * PREFERENCE[kind];
    if (distance > radius || felt >= least) return;
    [best, least] = [{ kind, point }, felt];
  };
  for (const { start, end, middle } of pieces) {
    offer('end', start);
    offer('end', end);
    offer('middle', middle);
  }
  for (const crossing of crossingsOf(pieces.slice(0, MOST_PIECES))) offer('crossing', crossing);
  return best;
}

function* crossingsOf(pieces: readonly SnapPiece[]): Generator<Vec2> {
  for (let i = 0; i < pieces.length; i++) {
    for (let k = i + 1; k < pieces.length; k++) {
      const [a, b] = [pieces[i]!, pieces[k]!];
      for (let p = 0; p < a.chords.length; p += 4) {
        for (let q = 0; q < b.chords.length; q += 4) {
          const crossing = crossingOf(a.chords, p, b.chords, q);
          if (crossing) yield crossing;
        }
      }
    }
  }
}

/** Where two lines cross, both ends included; none if they are parallel. */
function crossingOf(a: readonly number[], p: number, b: readonly number[], q: number): Vec2 | null {
  const [ax, ay] = [a[p]!, a[p + 1]!];
  const [ux, uy] = [a[p + 2]! - ax, a[p + 3]! - ay];
  const [vx, vy] = [b[q + 2]! - b[q]!, b[q + 3]! - b[q + 1]!];
  const cross = ux * vy - uy * vx;
  if (Math.abs(cross) <= 1e-12 * Math.hypot(ux, uy) * Math.hypot(vx, vy)) return null;
  const [wx, wy] = [b[q]! - ax, b[q + 1]! - ay];
  const s = (wx * vy - wy * vx) / cross;
  const t = (wx * uy - wy * ux) / cross;
  return s >= 0 && s <= 1 && t >= 0 && t <= 1 ? { x: ax + s * ux, y: ay + s * uy } : null;
}
