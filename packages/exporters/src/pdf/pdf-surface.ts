import type PDFDocument from 'pdfkit';
import type { Colour, FillRule } from '@gull-pane/core/drawing/model';
import type { Path } from '@gull-pane/core/drawing/path';
import type { PaperRect, Sheet } from '@gull-pane/core/sheets/sheet';
import type { PaperPicture, PaperSurface, PaperText, Pen } from '../sheets/paper-surface.ts';
import { tracePath, type ToPaper, type Tracer } from '../sheets/trace-path.ts';
import type { FontChooser } from './fonts.ts';
import type { PdfLayers } from './layered-page.ts';
import { POINTS_PER_MM, pdfNumber, pdfPoints } from './pdf-number.ts';

/** Operators are handed on in pieces of so many letters. */
const PIECE_LETTERS = 1 << 16;

/** Pages of a PDF, in the operators of ISO 32000-2, 8 and 9. */
export class PdfSurface implements PaperSurface {
  #piece: string[] = [];
  #letters = 0;
  #pen = '';
  #ink = '';
  #opacity = '1 1';
  readonly #tracer: Tracer = {
    move: (x, y) => this.#add(`${pdfPoints(x)} ${pdfPoints(y)} m`),
    line: (x, y) => this.#add(`${pdfPoints(x)} ${pdfPoints(y)} l`),
    cubic: (ax, ay, bx, by, x, y) => this.#add(`${[ax, ay, bx, by, x, y].map((mm) => pdfPoints(mm)).join(' ')} c`),
    close: () => this.#add('h'),
  };

  constructor(
    private readonly document: InstanceType<typeof PDFDocument>,
    private readonly layers: PdfLayers,
    private readonly fonts: FontChooser,
  ) {}

  beginSheet({ name, paper }: Sheet, index: number): void {
    const size = [paper.widthMm, paper.heightMm].map((mm) => mm * POINTS_PER_MM) as [number, number];
    this.document.addPage({ size, margin: 0 });
    this.document.addNamedDestination(destinationOf(index), 'Fit');
    this.document.outline.addItem(name);
    this.#forget();
    this.#add('4 M'); // a mitre reaches as far as on screen
  }

  endSheet(): void {
    this.#flush();
  }

  beginLayer(name: string): void {
    this.#flush();
    this.layers.begin(name);
  }

  endLayer(): void {
    this.#flush();
    this.layers.end();
  }

  cut(rect: PaperRect): void {
    this.#add(`q ${rectOperands(rect)} re W n`);
    this.#forget();
  }

  uncut(): void {
    this.#add('Q');
    this.#forget();
  }

  path(path: Path, toPaper: ToPaper, pen: Pen | null, fill: Colour | null, rule: FillRule): void {
    this.#setOpacity(pen?.colour.a ?? 255, fill?.a ?? 255);
    if (fill) this.#setInk(fill);
    if (pen) this.#setPen(pen);
    tracePath(path, toPaper, this.#tracer);
    const star = rule === 'evenodd' ? '*' : '';
    this.#add(fill ? (pen ? `B${star}` : `f${star}`) : 'S');
  }

  text({ text, xMm, yMm, sizeMm, angleRad, anchor, weight, colour }: PaperText): void {
    this.#setOpacity(colour.a, colour.a);
    this.#setInk(colour);
    this.#flush();
    const { document, fonts } = this;
    const sizePt = sizeMm * POINTS_PER_MM;
    const [cos, sin] = [Math.cos(angleRad), -Math.sin(angleRad)];
    const share = anchor === 'middle' ? 0.5 : anchor === 'end' ? 1 : 0;
    const begin = share === 0 ? 0 : -share * fonts.widthOf(text, sizePt, weight);
    document.save();
    document.transform(cos, sin, -sin, cos, xMm * POINTS_PER_MM, yMm * POINTS_PER_MM);
    fonts.write(text, begin, 0, sizePt, weight);
    document.restore();
  }

  picture({ corners, clip, opacity, href }: PaperPicture): void {
    this.#flush();
    const { document, layers } = this;
    const [, type = '', bytes = ''] = /^data:([^;,]*);base64,(.*)$/s.exec(href) ?? [];
    document.save();
    if (clip) {
      const ring = clip.map(([x, y], i) => `${pdfPoints(x)} ${pdfPoints(y)} ${i === 0 ? 'm' : 'l'}`);
      layers.write(`${ring.join('\n')}\nh W n`);
    }
    const [[x, y], [ax, ay], [bx, by]] = corners.map((corner) => corner.map((mm) => mm * POINTS_PER_MM)) as [
      [number, number],
      [number, number],
      [number, number],
    ];
    document.transform(ax - x, ay - y, bx - x, by - y, x, y);
    if (type === 'image/png' || type === 'image/jpeg') {
      if (opacity < 1) layers.opacity(opacity, opacity);
      document.image(Buffer.from(bytes, 'base64'), 0, 0, { width: 1, height: 1 });
    } else layers.write('0.9 g 0 0 1 1 re f'); // other kinds of pictures: their place
    document.restore();
  }

  link({ leftMm, topMm, widthMm, heightMm }: PaperRect, sheet: number): void {
    const [x, y, width, height] = [leftMm, topMm, widthMm, heightMm].map((mm) => mm * POINTS_PER_MM) as [
      number,
      number,
      number,
      number,
    ];
    this.document.goTo(x, y, width, height, destinationOf(sheet));
  }

  #setPen({ colour, widthMm, dashesMm }: Pen): void {
    const pattern = dashesMm.map((length) => pdfPoints(length));
    const isBroken = pattern.some((length) => Number(length) > 0);
    const pen = `${rgb(colour)} RG ${pdfPoints(widthMm)} w [${isBroken ? pattern.join(' ') : ''}] 0 d`;
    if (pen !== this.#pen) this.#add((this.#pen = pen));
  }

  #setInk(colour: Colour): void {
    const ink = `${rgb(colour)} rg`;
    if (ink !== this.#ink) this.#add((this.#ink = ink));
  }

  #setOpacity(stroke: number, fill: number): void {
    const opacity = `${stroke / 255} ${fill / 255}`;
    if (opacity === this.#opacity) return;
    this.#opacity = opacity;
    this.#flush();
    this.layers.opacity(stroke / 255, fill / 255);
  }

  /** The page's own state is another one now: everything is set anew. */
  #forget(): void {
    this.#pen = this.#ink = '';
    this.#opacity = '';
  }

  #add(operators: string): void {
    this.#piece.push(operators);
    this.#letters += operators.length;
    if (this.#letters > PIECE_LETTERS) this.#flush();
  }

  #flush(): void {
    if (this.#piece.length > 0) this.layers.write(this.#piece.join('\n'));
    this.#piece = [];
    this.#letters = 0;
  }
}

const rgb = ({ r, g, b }: Colour): string => [r, g, b].map((value) => pdfNumber(value / 255)).join(' ');

const rectOperands = ({ leftMm, topMm, widthMm, heightMm }: PaperRect): string =>
  [leftMm, topMm, widthMm, heightMm].map((mm) => pdfPoints(mm)).join(' ');

const destinationOf = (index: number): string => `sheet-${index + 1}`;
