import { compose, identityAffine, type Affine } from '@gull-pane/core/geometry/affine';
import { flattenPath } from '@gull-pane/core/drawing/flatten';
import type { Path } from '@gull-pane/core/drawing/path';
import type { Attributes, Frame } from './frame.ts';
import { userLength } from './length.ts';
import { markOfRun, type TextRun } from './text-run.ts';
import type { TextMark } from '@gull-pane/core/drawing/model';

/** Mean advance of a letter as a share of the em square, where letters are placed one by one without a font. */
const MEAN_ADVANCE = 0.55;

interface Span {
  /** Where it begins; absent where it goes on from the span before. */
  readonly xs: readonly number[];
  readonly ys: readonly number[];
  readonly dx: number;
  readonly dy: number;
  readonly rotateDeg: readonly number[];
  readonly matrix: Affine;
  readonly frame: Frame;
  text: string;
}

export interface PlacedText {
  readonly mark: TextMark;
  readonly frame: Frame;
}

/** Puts together what stands in one `text` element: spans, places of single letters, text along a path. */
export class TextCollector {
  #spans: Span[] = [];

  /** A `text` or `tspan` begins. */
  begin(attributes: Attributes, frame: Frame): void {
    const { paint, area } = frame;
    const list = (name: string, percentOf: number): number[] =>
      (attributes[name] ?? '')
        .split(/[\s,]+/)
        .filter((part) => part !== '')
        .map((part) => userLength(part, { fontSize: paint.fontSize, percentOf }, 0));
    this.#spans.push({
      ...{ xs: list('x', area.width), ys: list('y', area.height), rotateDeg: list('rotate', 0) },
      ...{ dx: list('dx', area.width)[0] ?? 0, dy: list('dy', area.height)[0] ?? 0 },
      ...{ matrix: frame.matrix, frame, text: '' },
    });
  }

  /** Text along a path begins: it stands straight where the path has the given offset. */
  beginOnPath(path: Path, attributes: Attributes, frame: Frame): void {
    const place = placeOnPath(path, attributes.startOffset ?? '0', frame);
    const matrix = compose(frame.matrix, place);
    this.#spans.push({ xs: [0], ys: [0], dx: 0, dy: 0, rotateDeg: [], matrix, frame, text: '' });
  }

  add(text: string): void {
    const span = this.#spans.at(-1);
    if (span) span.text += text;
  }

  /** A span has ended: what follows belongs to the element around it. */
  resume(frame: Frame): void {
    this.#spans.push({ xs: [], ys: [], dx: 0, dy: 0, rotateDeg: [], matrix: frame.matrix, frame, text: '' });
  }

  /** The `text` element has ended. @returns its texts as they stand in the drawing */
  finish(): PlacedText[] {
    const runs: (TextRun & { frame: Frame })[] = [];
    let pen = { x: 0, y: 0 };
    for (const { xs, ys, dx, dy, rotateDeg, matrix, frame, text } of this.#spans) {
      const startsAnew = runs.length === 0 || xs.length > 0 || ys.length > 0 || dy !== 0;
      pen = { x: (xs[0] ?? pen.x) + dx, y: (ys[0] ?? pen.y) + dy };
      const { paint, layer } = frame;
      const run = (x: number, y: number, letters: string, turned = matrix): void => {
        runs.push({ x, y, matrix: turned, paint, layer, frame, text: letters });
      };
      const isLetterByLetter = xs.length > 1 || ys.length > 1 || rotateDeg.length > 0;
      if (!isLetterByLetter) {
        if (startsAnew) run(pen.x, pen.y, text);
        else runs.at(-1)!.text += text;
        continue;
      }
      const letters = [...text.replace(/\s+/g, ' ').trim()];
      letters.forEach((letter, index) => {
        const x = xs[index] ?? (index === 0 ? pen.x : pen.x + MEAN_ADVANCE * paint.fontSize);
        const y = ys[index] ?? pen.y;
        pen = { x, y };
        const turn = rotateDeg[index] ?? rotateDeg.at(-1) ?? 0;
        if (turn === 0) run(x, y, letter);
        else run(0, 0, letter, compose(matrix, rotationAt(x, y, (turn * Math.PI) / 180)));
      });
    }
    this.#spans = [];
    return runs.flatMap((one) => {
      const mark = markOfRun(one);
      return mark ? [{ mark, frame: one.frame }] : [];
    });
  }
}

const rotationAt = (x: number, y: number, angleRad: number): Affine => ({
  ...{ a: Math.cos(angleRad), b: Math.sin(angleRad), c: -Math.sin(angleRad), d: Math.cos(angleRad), e: x, f: y },
});

/** The frame of a path at a distance along it: its point, turned as it runs there. */
function placeOnPath(path: Path, startOffset: string, { paint }: Frame): Affine {
  const points: number[] = [];
  flattenPath(path, {
    move: (x, y) => void points.push(x, y),
    line: (x, y) => void points.push(x, y),
    close: () => undefined,
  });
  let total = 0;
  for (let i = 2; i < points.length; i += 2)
    total += Math.hypot(points[i]! - points[i - 2]!, points[i + 1]! - points[i - 1]!);
  let left = userLength(startOffset, { fontSize: paint.fontSize, percentOf: total }, 0);
  for (let i = 2; i < points.length; i += 2) {
    const [dx, dy] = [points[i]! - points[i - 2]!, points[i + 1]! - points[i - 1]!];
    const length = Math.hypot(dx, dy);
    if (length > 0 && (left <= length || i + 2 >= points.length)) {
      const t = Math.min(Math.max(left / length, 0), 1);
      return rotationAt(points[i - 2]! + dx * t, points[i - 1]! + dy * t, Math.atan2(dy, dx));
    }
    left -= length;
  }
  return identityAffine;
}
