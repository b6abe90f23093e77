import { colourToHex } from '@gull-pane/core/drawing/colour';
import type { Colour, FillRule } from '@gull-pane/core/drawing/model';
import type { Path } from '@gull-pane/core/drawing/path';
import type { PaperRect, Sheet } from '@gull-pane/core/sheets/sheet';
import { drawSheet, type OnSheetProgress } from '../sheets/draw-sheet.ts';
import type { PaperPicture, PaperSurface, PaperText, Pen } from '../sheets/paper-surface.ts';
import type { PrintedSet } from '../sheets/printed-set.ts';
import { tracePath, type ToPaper, type Tracer } from '../sheets/trace-path.ts';
import { escaped } from './escaped.ts';

/** A part of the face: letters of some scripts. */
export interface FacePart {
  readonly weight: 400 | 700;
  /** The letters that it has, as CSS Fonts 4 writes a `unicode-range`. */
  readonly range: string;
  readonly has: (codePoint: number) => boolean;
  /** Of the file, WOFF. */
  readonly bytes: () => Uint8Array;
}

const FACE = 'Source Sans 3';

/**
 * A sheet as SVG 1.1 in millimetres: layers are groups with a title, texts are texts, the letters that it needs are in the
 * file.
 * @param fileOf the file that another sheet of the set is in
 */
export function sheetSvg(
  set: PrintedSet,
  index: number,
  faces: readonly FacePart[],
  fileOf: (sheet: number) => string,
  onProgress?: OnSheetProgress,
): readonly string[] {
  const surface = new SvgSurface(faces, fileOf);
  drawSheet(surface, set, index, onProgress);
  return surface.pieces;
}

class SvgSurface implements PaperSurface {
  readonly pieces: string[] = [];
  readonly #letters = { 400: new Set<number>(), 700: new Set<number>() };
  #cuts = 0;
  #groups = 0;
  #isInLayer = false;
  #steps: string[] = [];
  readonly #tracer: Tracer = {
    move: (x, y) => this.#steps.push(`M${mm(x)} ${mm(y)}`),
    line: (x, y) => this.#steps.push(`L${mm(x)} ${mm(y)}`),
    cubic: (ax, ay, bx, by, x, y) => this.#steps.push(`C${[ax, ay, bx, by, x, y].map(mm).join(' ')}`),
    close: () => this.#steps.push('Z'),
  };

  constructor(
    private readonly faces: readonly FacePart[],
    private readonly fileOf: (sheet: number) => string,
  ) {}

  beginSheet({ name, paper: { widthMm, heightMm } }: Sheet): void {
    this.pieces.push(
      '<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" ' +
        'xmlns:xlink="http://www.w3.org/1999/xlink" version="1.1" ' +
        `width="${widthMm}mm" height="${heightMm}mm" viewBox="0 0 ${widthMm} ${heightMm}">\n` +
        `<title>${escaped(name)}</title>\n<rect width="${widthMm}" height="${heightMm}" fill="#ffffff"/>\n`,
    );
  }

  endSheet(): void {
    const rules = this.faces.flatMap(({ weight, range, has, bytes }) => {
      if (![...this.#letters[weight]].some(has)) return [];
      const file = Buffer.from(bytes()).toString('base64');
      return [
        `@font-face{font-family:'${FACE}';font-weight:${weight};unicode-range:${range};` +
          `src:url(data:font/woff;base64,${file}) format('woff')}`,
      ];
    });
    const style = `text{font-family:'${FACE}',sans-serif;font-kerning:none;white-space:pre}`;
    this.pieces.push(`<style>${style}${rules.join('')}</style>\n</svg>\n`);
  }

  beginLayer(name: string): void {
    this.pieces.push(`<g id="layer-${++this.#groups}"><title>${escaped(name)}</title>\n`);
    this.#isInLayer = true;
  }

  endLayer(): void {
    this.pieces.push('</g>\n');
    this.#isInLayer = false;
  }

  cut({ leftMm, topMm, widthMm, heightMm }: PaperRect): void {
    if (this.#isInLayer) throw new Error('SvgSurface: a cut begins within a layer');
    const id = `cut-${++this.#cuts}`;
    this.pieces.push(
      `<clipPath id="${id}"><rect x="${mm(leftMm)}" y="${mm(topMm)}" width="${mm(widthMm)}" height="${mm(heightMm)}"/>` +
        `</clipPath>\n<g clip-path="url(#${id})">\n`,
    );
  }

  uncut(): void {
    this.pieces.push('</g>\n');
  }

  path(path: Path, toPaper: ToPaper, pen: Pen | null, fill: Colour | null, rule: FillRule): void {
    this.#steps = [];
    tracePath(path, toPaper, this.#tracer);
    const filled = fill
      ? `fill="${colourToHex(fill)}"${opacity('fill', fill)}${rule === 'evenodd' ? ' fill-rule="evenodd"' : ''}`
      : 'fill="none"';
    this.pieces.push(`<path ${filled}${pen ? strokeOf(pen) : ''} d="${this.#steps.join('')}"/>\n`);
  }

  text({ text, xMm, yMm, sizeMm, angleRad, anchor, weight, colour }: PaperText): void {
    for (const letter of text) this.#letters[weight === 'bold' ? 700 : 400].add(letter.codePointAt(0)!);
    const turn = angleRad === 0 ? '' : ` transform="rotate(${(-angleRad * 180) / Math.PI} ${mm(xMm)} ${mm(yMm)})"`;
    const look = `${anchor === 'start' ? '' : ` text-anchor="${anchor}"`}${weight === 'bold' ? ' font-weight="700"' : ''}`;
    this.pieces.push(
      `<text x="${mm(xMm)}" y="${mm(yMm)}" font-size="${mm(sizeMm)}"${look} fill="${colourToHex(colour)}"` +
        `${opacity('fill', colour)}${turn}>${escaped(text)}</text>\n`,
    );
  }

  picture({ corners: [[x, y], [ax, ay], [bx, by]], clip, opacity: share, href }: PaperPicture): void {
    const id = `cut-${++this.#cuts}`;
    if (clip)
      this.pieces.push(`<clipPath id="${id}"><polygon points="${clip.flat().map(mm).join(' ')}"/></clipPath>\n`);
    const matrix = [ax - x, ay - y, bx - x, by - y, x, y].map(mm).join(' ');
    this.pieces.push(
      `<g${clip ? ` clip-path="url(#${id})"` : ''}><image width="1" height="1" preserveAspectRatio="none"` +
        `${share < 1 ? ` opacity="${share}"` : ''} transform="matrix(${matrix})" xlink:href="${href}"/></g>\n`,
    );
  }

  link({ leftMm, topMm, widthMm, heightMm }: PaperRect, sheet: number): void {
    const size = `width="${mm(widthMm)}" height="${mm(heightMm)}"`;
    this.pieces.push(
      `<a xlink:href="${escaped(encodeURI(this.fileOf(sheet)))}"><rect x="${mm(leftMm)}" y="${mm(topMm)}" ${size} ` +
        'fill="#ffffff" fill-opacity="0"/></a>\n',
    );
  }
}

/** To a hundred-thousandth of a millimetre. */
const mm = (value: number): string => String(Math.round(value * 1e5) / 1e5 + 0);

const opacity = (name: 'fill' | 'stroke', { a }: Colour): string =>
  a < 255 ? ` ${name}-opacity="${Number((a / 255).toFixed(4))}"` : '';

function strokeOf({ colour, widthMm, dashesMm }: Pen): string {
  const dashes = dashesMm.some((length) => length > 0) ? ` stroke-dasharray="${dashesMm.map(mm).join(' ')}"` : '';
  return ` stroke="${colourToHex(colour)}"${opacity('stroke', colour)} stroke-width="${mm(widthMm)}"${dashes}`;
}
