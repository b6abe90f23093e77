import { compose, type Affine } from '@gull-pane/core/geometry/affine';
import type { Path } from '@gull-pane/core/drawing/path';
import type { Attributes, Frame } from './frame.ts';
import { userLength } from './length.ts';
import { letterAdvance } from '@gull-pane/core/drawing/letter-advance';
import { MeasuredPath } from './measured-path.ts';
import { layOnPath } from './text-on-path.ts';
import { markOfRun, type TextRun } from './text-run.ts';
import type { TextMark } from '@gull-pane/core/drawing/model';

interface Span {
  /** Where it begins; absent where it goes on from the span before. */
  readonly xs: readonly number[];
  readonly ys: readonly number[];
  readonly dx: number;
  readonly dy: number;
  readonly rotateDeg: readonly number[];
  readonly matrix: Affine;
  readonly frame: Frame;
  /** The path that it stands along. */
  readonly way: TextWay | null;
  text: string;
}

/** A path that text stands along, and where it begins, user units. */
interface TextWay {
  readonly path: MeasuredPath;
  readonly startOffset: number;
  readonly matrix: Affine;
}

export interface PlacedText {
  readonly mark: TextMark;
  readonly frame: Frame;
}

/** Puts together what stands in one `text` element: spans, places of single letters, text along a path. */
export class TextCollector {
  #spans: Span[] = [];
  #way: TextWay | null = null;

  /** A `text` or `tspan` begins. */
  begin(attributes: Attributes, frame: Frame): void {
    const { paint, area } = frame;
    const list = (name: string, percentOf: number): number[] =>
      (attributes[name] ?? '')
        .split(/[\s,]+/)
        .filter((part) => part !== '')
        .map((part) => userLength(part, { fontSize: paint.fontSize, percentOf }, 0));
    this.#spans.push({
      xs: list('x', area.width),
      ys: list('y', area.height),
      rotateDeg: list('rotate', 0),
      dx: list('dx', area.width)[0] ?? 0,
      dy: list('dy', area.height)[0] ?? 0,
      matrix: frame.matrix,
      frame,
      way: this.#way,
      text: '',
    });
  }

  /** Text along a path begins; the spans within belong to it until it ends. */
  beginOnPath(path: Path, attributes: Attributes, frame: Frame): void {
    const measured = new MeasuredPath(path);
    const { fontSize } = frame.paint;
    const startOffset = userLength(attributes.startOffset, { fontSize, percentOf: measured.length }, 0);
    this.#way = { path: measured, startOffset, matrix: frame.matrix };
    this.resume(frame);
  }

  endPath(): void {
    this.#way = null;
  }

  add(text: string): void {
    const span = this.#spans.at(-1);
    if (span) span.text += text;
  }

  /** A span has ended: what follows belongs to the element around it. */
  resume(frame: Frame): void {
    const { matrix } = frame;
    this.#spans.push({ xs: [], ys: [], dx: 0, dy: 0, rotateDeg: [], matrix, frame, way: this.#way, text: '' });
  }

  /** The `text` element has ended. @returns its texts as they stand in the drawing */
  finish(): PlacedText[] {
    const runs: (TextRun & { frame: Frame })[] = [];
    let pen = { x: 0, y: 0 };
    let wayBefore: TextWay | null = null;
    for (const { xs, ys, dx, dy, rotateDeg, matrix, frame, way, text } of this.#spans) {
      if (way) {
        if (way !== wayBefore) runs.push(...this.#runsOn(way));
        wayBefore = way;
        continue;
      }
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
      let before = 0;
      letters.forEach((letter, index) => {
        const x = xs[index] ?? (index === 0 ? pen.x : pen.x + before);
        before = letterAdvance(letter, paint.fontSize, paint.isBold);
        const y = ys[index] ?? pen.y;
        pen = { x, y };
        const turn = rotateDeg[index] ?? rotateDeg.at(-1) ?? 0;
        if (turn === 0) run(x, y, letter);
        else run(0, 0, letter, compose(matrix, rotationAt(x, y, (turn * Math.PI) / 180)));
      });
    }
    this.#spans = [];
    this.#way = null;
    return runs.flatMap((one) => {
      const mark = markOfRun(one);
      return mark ? [{ mark, frame: one.frame }] : [];
    });
  }

  #runsOn(way: TextWay): (TextRun & { frame: Frame })[] {
    const spans = this.#spans.filter((span) => span.way === way);
    const pieces = layOnPath(
      way.path,
      way.startOffset,
      spans.map(({ frame, text }) => ({ owner: frame, text })),
    );
    return pieces.map(({ owner: frame, x, y, angleRad, text }) => {
      const paint = { ...frame.paint, textAnchor: 'start' as const };
      const matrix = compose(way.matrix, rotationAt(x, y, angleRad));
      return { x: 0, y: 0, matrix, paint, layer: frame.layer, frame, text };
    });
  }
}

const rotationAt = (x: number, y: number, angleRad: number): Affine => ({
  a: Math.cos(angleRad),
  b: Math.sin(angleRad),
  c: -Math.sin(angleRad),
  d: Math.cos(angleRad),
  e: x,
  f: y,
});
