import { applyX, applyY, meanScale, type Affine } from '@gull-pane/core/geometry/affine';
import type { TextMark } from '@gull-pane/core/drawing/model';
import type { Paint } from './paint.ts';

/** A stretch of a `text` element with one position, user units. */
export interface TextRun {
  readonly x: number;
  readonly y: number;
  readonly matrix: Affine;
  readonly paint: Paint;
  readonly layer: number;
  text: string;
}

/** The run as it stands in the drawing; null if it has nothing to read. White space is folded as XML's default asks. */
export function markOfRun(run: TextRun): TextMark | null {
  const text = run.text.replace(/\s+/g, ' ').trim();
  const size = run.paint.fontSize * meanScale(run.matrix);
  if (text === '' || !(size > 0)) return null;
  return {
    text,
    x: applyX(run.matrix, run.x, run.y),
    y: applyY(run.matrix, run.x, run.y),
    size,
    angleRad: Math.atan2(run.matrix.b, run.matrix.a) + 0, // no −0
    anchor: run.paint.textAnchor,
    weight: run.paint.isBold ? 'bold' : 'normal',
  };
}
