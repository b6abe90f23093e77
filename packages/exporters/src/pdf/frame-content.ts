import type { Colour, Style } from '@gull-pane/core/drawing/model';
import { placementOf, unitsPerPaperMm, type SheetFrame } from '@gull-pane/core/sheets/sheet';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { ExportedDrawing, ExportedObject, ExportedPicture } from '../exported.ts';
import type { FontChooser } from './fonts.ts';
import type { PdfLayers } from './layered-page.ts';
import { pathOperators, pdfNumber, type ToPage } from './path-operators.ts';
import type PDFDocument from 'pdfkit';

export const POINTS_PER_MM = 72 / 25.4;
/** Lines without a width of their own, and the thinnest of others, mm on paper: pens of ISO 128-2 begin at 0.13. */
const [HAIR_MM, THINNEST_MM] = [0.13, 0.05] as const;
/** Operators are handed on in pieces of so many letters. */
const PIECE_LETTERS = 1 << 16;

/** What can write a page. */
export interface Page {
  readonly document: InstanceType<typeof PDFDocument>;
  readonly layers: PdfLayers;
  readonly fonts: FontChooser;
}

/** Draws what a frame shows, cut at its border: lines in their true widths, layers that can be hidden, texts as texts. */
export function drawFrame(page: Page, frame: SheetFrame, drawing: ExportedDrawing, unit: DrawingUnit): void {
  const writer = new FrameWriter(page, frame, drawing, unit);
  const { leftMm, topMm, widthMm, heightMm } = frame;
  const rect = [leftMm, topMm, widthMm, heightMm].map((mm) => pdfNumber(mm * POINTS_PER_MM)).join(' ');
  page.layers.write(`q\n${rect} re W n\n4 M`);
  for (const object of drawing.objects()) writer.draw(object);
  writer.finish();
  page.layers.write('Q');
}

class FrameWriter {
  readonly #toPage: ToPage;
  readonly #pointsPerUnit: number;
  #piece: string[] = [];
  #letters = 0;
  #layer = -1;
  #pen = '';
  #ink = '';
  #opacity = '1 1';

  constructor(
    private readonly page: Page,
    private readonly frame: SheetFrame,
    private readonly drawing: ExportedDrawing,
    unit: DrawingUnit,
  ) {
    const { toPaper } = placementOf(frame, unit);
    this.#toPage = (x, y) => {
      const [xMm, yMm] = toPaper(x, y);
      return [xMm * POINTS_PER_MM, yMm * POINTS_PER_MM];
    };
    this.#pointsPerUnit = POINTS_PER_MM / unitsPerPaperMm(frame.view.denominator, unit);
  }

  draw(object: ExportedObject): void {
    this.#enter(object.layer);
    if (object.picture) this.#picture(object.picture);
    else if (object.text) this.#text(object);
    else if (object.path) this.#path(object);
  }

  finish(): void {
    this.#enter(-1);
    this.#flush();
  }

  /** Layers are identified by name: two with the same name become one layer of the PDF. */
  #enter(layer: number): void {
    if (layer === this.#layer) return;
    this.#flush();
    if (this.#layer >= 0) this.page.layers.end();
    this.#layer = layer;
    if (layer >= 0) this.page.layers.begin(this.drawing.layers[layer]?.name ?? 'Drawing');
  }

  #path({ layer, path, line, fill, fillRule }: ExportedObject): void {
    const pen = line ?? (fill ? null : this.#plainStyle(layer));
    this.#setOpacity(pen ? pen.colour.a : 255, fill ? fill.colour.a : 255);
    if (fill) this.#setInk(fill.colour);
    if (pen) this.#setPen(pen);
    const star = fillRule === 'evenodd' ? '*' : '';
    const paint = fill ? (pen ? `B${star}` : `f${star}`) : 'S';
    this.#add(`${pathOperators(path!, this.#toPage)}\n${paint}`);
  }

  #text({ layer, text, line, fill }: ExportedObject): void {
    const { colour } = line ?? fill ?? this.#plainStyle(layer);
    const { x, y, size, angleRad, anchor, weight } = text!;
    this.#setOpacity(colour.a, colour.a);
    this.#setInk(colour);
    this.#flush();
    const { document, fonts } = this.page;
    const sizePt = size * this.#pointsPerUnit;
    const [pageX, pageY] = this.#toPage(x, y);
    const turn = angleRad + this.frame.view.bearingRad;
    const [cos, sin] = [Math.cos(turn), -Math.sin(turn)];
    const share = anchor === 'middle' ? 0.5 : anchor === 'end' ? 1 : 0;
    const begin = share === 0 ? 0 : -share * fonts.widthOf(text!.text, sizePt, weight);
    document.save();
    document.transform(cos, sin, -sin, cos, pageX, pageY);
    fonts.write(text!.text, begin, 0, sizePt, weight);
    document.restore();
  }

  #picture({ place, clip, opacity, href }: ExportedPicture): void {
    this.#flush();
    const { document, layers } = this.page;
    const [, type = '', bytes = ''] = /^data:([^;,]*);base64,(.*)$/s.exec(href()) ?? [];
    document.save();
    if (clip) {
      const [minX, minY, maxX, maxY] = clip;
      const corners = [
        [minX, minY],
        [maxX, minY],
        [maxX, maxY],
        [minX, maxY],
      ] as const;
      const ring = corners.map(([x, y], i) => `${this.#toPage(x, y).map(pdfNumber).join(' ')} ${i === 0 ? 'm' : 'l'}`);
      layers.write(`${ring.join('\n')}\nh W n`);
    }
    const [x, y] = this.#toPage(place.e, place.f);
    const [ax, ay] = this.#toPage(place.e + place.a, place.f + place.b);
    const [bx, by] = this.#toPage(place.e + place.c, place.f + place.d);
    document.transform(ax - x, ay - y, bx - x, by - y, x, y);
    if (type === 'image/png' || type === 'image/jpeg') {
      if (opacity < 1) layers.opacity(opacity, opacity);
      document.image(Buffer.from(bytes, 'base64'), 0, 0, { width: 1, height: 1 });
    } else layers.write('0.9 g 0 0 1 1 re f'); // other kinds of pictures: their place
    document.restore();
  }

  #plainStyle(layer: number): Style {
    const colour = this.drawing.layers[layer]?.colour ?? '#000000';
    const [r, g, b] = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16)) as [number, number, number];
    return { kind: 'line', layer, colour: { r, g, b, a: 255 }, width: 0, dashes: [] };
  }

  #setPen({ colour, width, dashes }: Style): void {
    const widthMm = (width * this.#pointsPerUnit) / POINTS_PER_MM;
    const points = (width > 0 ? Math.max(widthMm, THINNEST_MM) : HAIR_MM) * POINTS_PER_MM;
    const pattern = dashes.map((length) => pdfNumber(length * this.#pointsPerUnit));
    const isBroken = pattern.some((length) => Number(length) > 0);
    const pen = `${rgb(colour)} RG ${pdfNumber(points)} w [${isBroken ? pattern.join(' ') : ''}] 0 d`;
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
    this.page.layers.opacity(stroke / 255, fill / 255);
  }

  #add(operators: string): void {
    this.#piece.push(operators);
    this.#letters += operators.length;
    if (this.#letters > PIECE_LETTERS) this.#flush();
  }

  #flush(): void {
    if (this.#piece.length > 0) this.page.layers.write(this.#piece.join('\n'));
    this.#piece = [];
    this.#letters = 0;
  }
}

const rgb = ({ r, g, b }: Colour): string => [r, g, b].map((value) => pdfNumber(value / 255)).join(' ');
