import { createHash } from 'node:crypto';
import { GlobalFonts, createCanvas, loadImage, type Canvas, type Image, type SKRSContext2D } from '@napi-rs/canvas';
import type { Colour, FillRule } from '@gull-pane/core/drawing/model';
import type { Path } from '@gull-pane/core/drawing/path';
import type { PaperRect } from '@gull-pane/core/sheets/sheet';
import type { PaperPicture, PaperSurface, PaperText, Pen } from '../sheets/paper-surface.ts';
import { tracePath, type ToPaper, type Tracer } from '../sheets/trace-path.ts';

/** Files of the face by weight. */
export interface RasterFonts {
  readonly normal: readonly Uint8Array[];
  readonly bold: readonly Uint8Array[];
}

/** A piece of a sheet, px of the whole sheet's picture. */
export interface PieceRect {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

const families = new Map<string, string>();

/** The families of the face, as a list for CSS. */
function familiesOf(files: readonly Uint8Array[]): string {
  const names = files.map((bytes) => {
    const key = createHash('sha256').update(bytes).digest('hex');
    let name = families.get(key);
    if (!name) {
      name = `sheet-face-${families.size}`;
      GlobalFonts.register(Buffer.from(bytes), name);
      families.set(key, name);
    }
    return `"${name}"`;
  });
  return [...names, 'sans-serif'].join(', ');
}

/** Pictures of a set, read before they are drawn. */
export type LoadedPictures = ReadonlyMap<string, Image>;

/** Reads what {@link CanvasSurface} draws of raster pictures. Those that can't be read are missing: their place is grey. */
export async function loadPictures(hrefs: Iterable<string>): Promise<LoadedPictures> {
  const loaded = new Map<string, Image>();
  for (const href of new Set(hrefs)) {
    const bytes = Buffer.from(href.slice(href.indexOf(',') + 1), 'base64');
    const image = await loadImage(bytes).catch(() => null);
    if (image) loaded.set(href, image);
  }
  return loaded;
}

/**
 * Pieces of a sheet as pixels, one after the other on one canvas: the memory of many would be given back only when it
 * is collected.
 */
export class CanvasSurface implements PaperSurface {
  readonly #canvas: Canvas;
  readonly #context: SKRSContext2D;
  readonly #families: Readonly<Record<'normal' | 'bold', string>>;
  readonly #tracer: Tracer;

  /** @param most the size of the largest piece, px */
  constructor(
    most: Pick<PieceRect, 'width' | 'height'>,
    private readonly pxPerMm: number,
    fonts: RasterFonts,
    private readonly pictures: LoadedPictures,
  ) {
    this.#canvas = createCanvas(most.width, most.height);
    const context = this.#canvas.getContext('2d');
    this.#context = context;
    this.#families = { normal: familiesOf(fonts.normal), bold: familiesOf(fonts.bold) };
    this.#tracer = {
      move: (x, y) => context.moveTo(x, y),
      line: (x, y) => context.lineTo(x, y),
      cubic: (ax, ay, bx, by, x, y) => context.bezierCurveTo(ax, ay, bx, by, x, y),
      close: () => context.closePath(),
    };
  }

  /** Begins a piece, on white. */
  begin({ left, top, width, height }: PieceRect): void {
    const context = this.#context;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = '#fff';
    context.fillRect(0, 0, width, height);
    context.setTransform(this.pxPerMm, 0, 0, this.pxPerMm, -left, -top);
    context.miterLimit = 4;
    context.fontKerning = 'none';
  }

  /** Red, green, blue, alpha of each px of the canvas, row by row; shares memory with it. */
  get pixels(): Uint8Array {
    // copies that the canvas makes itself are collected too late: gigabytes of a large sheet
    return this.#canvas.data();
  }

  /** Px in a row of the canvas. */
  get stride(): number {
    return this.#canvas.width;
  }

  // pixels have neither sheets nor layers nor links
  beginSheet(): void {}
  endSheet(): void {}
  beginLayer(): void {}
  endLayer(): void {}
  link(): void {}

  cut({ leftMm, topMm, widthMm, heightMm }: PaperRect): void {
    this.#context.save();
    this.#context.beginPath();
    this.#context.rect(leftMm, topMm, widthMm, heightMm);
    this.#context.clip();
  }

  uncut(): void {
    this.#context.restore();
  }

  path(path: Path, toPaper: ToPaper, pen: Pen | null, fill: Colour | null, rule: FillRule): void {
    const context = this.#context;
    context.beginPath();
    tracePath(path, toPaper, this.#tracer);
    if (fill) {
      context.fillStyle = css(fill);
      context.fill(rule);
    }
    if (!pen) return;
    context.strokeStyle = css(pen.colour);
    context.lineWidth = pen.widthMm;
    context.setLineDash(pen.dashesMm.some((length) => length > 0) ? [...pen.dashesMm] : []);
    context.stroke();
  }

  text({ text, xMm, yMm, sizeMm, angleRad, anchor, weight, colour }: PaperText): void {
    const context = this.#context;
    context.save();
    context.translate(xMm, yMm);
    context.rotate(-angleRad);
    // fonts of a few px come out coarse: written large, drawn small
    context.scale(sizeMm / LETTER_PX, sizeMm / LETTER_PX);
    context.font = `${LETTER_PX}px ${this.#families[weight]}`;
    context.textAlign = anchor === 'middle' ? 'center' : anchor;
    context.fillStyle = css(colour);
    context.fillText(text, 0, 0);
    context.restore();
  }

  picture({ corners: [[x, y], [ax, ay], [bx, by]], clip, opacity, href }: PaperPicture): void {
    const image = this.pictures.get(href);
    const context = this.#context;
    context.save();
    if (clip) {
      context.beginPath();
      clip.forEach(([px, py], k) => (k === 0 ? context.moveTo(px, py) : context.lineTo(px, py)));
      context.clip();
    }
    context.globalAlpha = opacity;
    context.transform(ax - x, ay - y, bx - x, by - y, x, y);
    if (image) context.drawImage(image, 0, 0, 1, 1);
    else {
      context.fillStyle = '#e6e6e6';
      context.fillRect(0, 0, 1, 1);
    }
    context.restore();
  }
}

const LETTER_PX = 64;

const css = ({ r, g, b, a }: Colour): string => `rgba(${r},${g},${b},${a / 255})`;
