import type { PaperRect } from './sheet.ts';

/** Lines that edges and middles of what is moved are drawn to; mm on the sheet. */
export interface GuideLines {
  /** Abscissas of upright lines. */
  readonly x: readonly number[];
  /** Ordinates of level lines. */
  readonly y: readonly number[];
}

/** The lines of rectangles: their edges and their middles. */
export const guideLinesOf = (rects: readonly PaperRect[]): GuideLines => ({
  x: rects.flatMap(({ leftMm, widthMm }) => [leftMm, leftMm + widthMm / 2, leftMm + widthMm]),
  y: rects.flatMap(({ topMm, heightMm }) => [topMm, topMm + heightMm / 2, topMm + heightMm]),
});

/** What a place came to. */
export interface Guided {
  readonly mm: number;
  /** The line that it is drawn to; null if none is near. */
  readonly line: number | null;
}

/**
 * Draws a stretch to a line.
 * @param startMm where it begins
 * @param offsets of its places that lines count for, from its start
 * @returns where it begins then
 */
export function guided(startMm: number, offsets: readonly number[], lines: readonly number[], reachMm: number): Guided {
  let best: Guided = { mm: startMm, line: null };
  let nearest = reachMm;
  for (const line of lines)
    for (const offset of offsets) {
      const away = Math.abs(startMm + offset - line);
      if (away < nearest || (away === nearest && best.line === null)) {
        nearest = away;
        best = { mm: line - offset, line };
      }
    }
  return best;
}
