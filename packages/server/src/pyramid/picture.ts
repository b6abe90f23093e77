import { PNG } from 'pngjs';
import type { Style } from '@gull-pane/core/drawing/model';
import { ItemKind, type ItemTable } from '@gull-pane/core/pyramid/items';
import type { SmallPicture } from './small-pictures.ts';

export const PICTURE_WIDTH = 480;
export const PICTURE_HEIGHT = 300;
const MARGIN = 10;
/** Ink of one pass of a line over a pixel; a line's weight adds to it. */
const INK = 0.55;

/** Puts what a picture shows at a place below what is there: the *destination over* of T. Porter and T. Duff, 1984. */
function putBelow(
  data: Buffer,
  at: number,
  { place, rgba, opacity, widthPx, heightPx }: SmallPicture,
  x: number,
  y: number,
): void {
  const det = place.a * place.d - place.b * place.c;
  const [dx, dy] = [x - place.e, y - place.f];
  const u = (place.d * dx - place.c * dy) / det;
  const v = (place.a * dy - place.b * dx) / det;
  if (!(u >= 0 && u < 1 && v >= 0 && v < 1)) return;
  const from = 4 * (Math.floor(v * heightPx) * widthPx + Math.floor(u * widthPx));
  const above = data[at + 3]! / 255;
  const below = (rgba[from + 3]! / 255) * opacity * (1 - above);
  const alpha = above + below;
  if (!(alpha > 0)) return;
  for (let c = 0; c < 3; c++) data[at + c] = Math.round((data[at + c]! * above + rgba[from + c]! * below) / alpha);
  data[at + 3] = Math.round(255 * alpha);
}

/**
 * A small picture of the whole drawing for its card: ink on transparent paper, PNG.
 * @param box minX, minY, maxX, maxY in drawing units
 * @param pictures that lie below it all
 */
export function drawPicture(
  table: ItemTable,
  styles: readonly Style[],
  box: readonly number[],
  pictures: readonly SmallPicture[] = [],
): Buffer {
  const [minX = 0, minY = 0, maxX = 0, maxY = 0] = box;
  const width = PICTURE_WIDTH;
  const height = PICTURE_HEIGHT;
  const span = Math.max((maxX - minX) / (width - 2 * MARGIN), (maxY - minY) / (height - 2 * MARGIN)) || 1;
  const toX = (x: number): number => width / 2 + (x - (minX + maxX) / 2) / span;
  const toY = (y: number): number => height / 2 - (y - (minY + maxY) / 2) / span;
  const ink = new Float32Array(width * height * 4); // red, green, blue weighted by ink, then the ink
  const dab = (x: number, y: number, { r, g, b, a }: Style['colour'], amount: number): void => {
    const column = Math.floor(x);
    const row = Math.floor(y);
    if (column < 0 || row < 0 || column >= width || row >= height) return;
    const at = 4 * (row * width + column);
    const share = amount * (a / 255);
    ink[at]! += r * share;
    ink[at + 1]! += g * share;
    ink[at + 2]! += b * share;
    ink[at + 3]! += share;
  };
  for (let item = 0; item < table.length; item++) {
    const kind = table.kind.at(item);
    if (kind === ItemKind.text) continue;
    const style = styles[table.style.at(item)]!;
    const { xy, start } = table.pointsOf(item);
    const points = table.points.at(item);
    if (kind === ItemKind.fill) {
      // the edges of the triangles are enough at this size
      const amount = style.colour.a > 200 ? 0.3 : 0.1;
      for (let i = 0; i < points; i++) dab(toX(xy[start + 2 * i]!), toY(xy[start + 2 * i + 1]!), style.colour, amount);
      continue;
    }
    const amount = INK * Math.min(Math.max(style.width / span, 0.35), 1.5);
    for (let i = 1; i < points; i++) {
      const x0 = toX(xy[start + 2 * i - 2]!);
      const y0 = toY(xy[start + 2 * i - 1]!);
      const x1 = toX(xy[start + 2 * i]!);
      const y1 = toY(xy[start + 2 * i + 1]!);
      const length = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
      const steps = Math.min(Math.max(Math.ceil(length), 1), 4 * width);
      const each = (amount * Math.min(length, steps)) / steps;
      for (let k = 0; k < steps; k++) {
        const t = (k + 0.5) / steps;
        dab(x0 + (x1 - x0) * t, y0 + (y1 - y0) * t, style.colour, each);
      }
    }
  }
  const png = new PNG({ width, height });
  for (let at = 0; at < ink.length; at += 4) {
    const amount = ink[at + 3]!;
    if (amount === 0) continue;
    for (let c = 0; c < 3; c++) png.data[at + c] = Math.round(ink[at + c]! / amount);
    png.data[at + 3] = Math.round(255 * (1 - Math.exp(-1.6 * amount)));
  }
  if (pictures.length > 0) {
    const toPlace = (column: number, row: number): readonly [number, number] => [
      (minX + maxX) / 2 + (column + 0.5 - width / 2) * span,
      (minY + maxY) / 2 - (row + 0.5 - height / 2) * span,
    ];
    for (let at = 0; at < png.data.length; at += 4) {
      const [x, y] = toPlace((at / 4) % width, Math.floor(at / 4 / width));
      // the topmost picture lies next below the ink
      for (let i = pictures.length - 1; i >= 0 && png.data[at + 3]! < 255; i--)
        putBelow(png.data, at, pictures[i]!, x, y);
    }
  }
  return PNG.sync.write(png, { filterType: 0 }); // lines and flat colours gain nothing by a filter
}
