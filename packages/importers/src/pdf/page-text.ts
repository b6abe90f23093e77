import { compose, type Affine } from '@gull-pane/core/geometry/affine';
import type { TextMark } from '@gull-pane/core/drawing/model';

/** A glyph or, as a number, a shift against the direction of writing in thousandths of the size. */
export type Shown = number | null | { readonly unicode?: string; readonly width?: number; readonly isSpace?: boolean };

/** What text operators set (ISO 32000-2, 9.3); kept with the graphics state. */
export interface TextSettings {
  size: number;
  isBold: boolean;
  charSpacing: number;
  wordSpacing: number;
  /** Share of the natural width. */
  stretch: number;
  leading: number;
  rise: number;
  isVisible: boolean;
}

export const plainText: TextSettings = {
  size: 0,
  isBold: false,
  charSpacing: 0,
  wordSpacing: 0,
  stretch: 1,
  leading: 0,
  rise: 0,
  isVisible: true,
};

/** A stretch of text as it stands in the drawing, with where it ends. */
export interface TextRun {
  readonly mark: TextMark;
  readonly endX: number;
  readonly endY: number;
}

/** A gap wider than this is a space, in sizes of the text; one wider than the other begins a new text. */
const SPACE = 0.17;
const BREAK = 0.9;
/** Texts this near to a line and a direction go on in it. */
const NEAR = 0.1;
const SAME_DIRECTION = 1e-3;

/** Where text is being written. */
export class TextPen {
  #line: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };
  #matrix = this.#line;

  begin(matrix: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 }): void {
    this.#line = this.#matrix = matrix;
  }

  nextLine(x: number, y: number): void {
    this.#line = compose(this.#line, { a: 1, b: 0, c: 0, d: 1, e: x, f: y });
    this.#matrix = this.#line;
  }

  /**
   * Writes glyphs.
   * @param toDrawing from the space in which the text stands
   * @returns the texts that they make, in drawing coordinates
   */
  show(glyphs: readonly Shown[], settings: TextSettings, toDrawing: Affine): TextRun[] {
    const { size, stretch, rise } = settings;
    const runs: TextRun[] = [];
    let text = '';
    let begin = 0;
    let x = 0;
    const placeAt = (along: number): readonly [number, number] => {
      const m = compose(toDrawing, this.#matrix);
      return [m.a * along + m.c * rise + m.e, m.b * along + m.d * rise + m.f];
    };
    const m = compose(toDrawing, this.#matrix);
    const drawnSize = Math.abs(size) * Math.hypot(m.c, m.d);
    const direction = Math.sign(size) || 1;
    const angleRad = Math.atan2(m.b * direction, m.a * direction);
    const end = (at: number): void => {
      const content = text.normalize('NFKC').trim();
      const [startX, startY] = placeAt(begin);
      const [endX, endY] = placeAt(at);
      text = '';
      if (content === '' || !(drawnSize > 0)) return;
      const weight = settings.isBold ? ('bold' as const) : ('normal' as const);
      const mark = { text: content, x: startX, y: startY, size: drawnSize, angleRad, anchor: 'start' as const, weight };
      runs.push({ mark, endX, endY });
    };
    for (const glyph of glyphs) {
      if (glyph === null) continue;
      if (typeof glyph === 'number') {
        const gap = -glyph / 1000;
        if (gap > BREAK && text !== '') end(x);
        else if (gap > SPACE && text !== '') text += ' ';
        x += gap * size * stretch;
        continue;
      }
      if (text === '') begin = x;
      const letters = glyph.isSpace === true ? ' ' : (glyph.unicode ?? '');
      if (text !== '' || letters.trim() !== '') text += letters;
      const spacing = settings.charSpacing + (glyph.isSpace === true ? settings.wordSpacing : 0);
      x += (((glyph.width ?? 0) / 1000) * size + spacing) * stretch;
    }
    end(x);
    this.#matrix = compose(this.#matrix, { a: 1, b: 0, c: 0, d: 1, e: x, f: 0 });
    return runs;
  }
}

/** @returns both as one text, if the second goes on where the first ended; else null */
export function joined(first: TextRun, second: TextRun): TextRun | null {
  const { size, angleRad, weight } = first.mark;
  const other = second.mark;
  const isAlike = Math.abs(other.size - size) < 1e-3 * size && other.weight === weight;
  if (!isAlike || Math.abs(other.angleRad - angleRad) > SAME_DIRECTION) return null;
  const [dx, dy] = [other.x - first.endX, other.y - first.endY];
  const [cos, sin] = [Math.cos(angleRad), Math.sin(angleRad)];
  const along = (dx * cos + dy * sin) / size;
  const across = Math.abs(dy * cos - dx * sin) / size;
  if (across > NEAR || along < -NEAR || along > BREAK / 2) return null;
  const text = first.mark.text + (along > SPACE ? ' ' : '') + other.text;
  return { mark: { ...first.mark, text }, endX: second.endX, endY: second.endY };
}
