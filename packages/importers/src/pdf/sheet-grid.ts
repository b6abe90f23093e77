import type { Affine } from '@gull-pane/core/geometry/affine';

/** A page as the file describes it (ISO 32000-2, 7.7.3.3). */
export interface PageFrame {
  /** The visible part, x0 y0 x1 y1 in the page's units. */
  readonly view: readonly number[];
  /** Turned clockwise when shown, in degrees: 0, 90, 180 or 270. */
  readonly rotate: number;
  /** Size of the page's unit in 1/72 inch. */
  readonly userUnit: number;
}

/** Where a page lies in the drawing, mm. */
export interface PlacedSheet {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
  /** The page's units to drawing coordinates. */
  readonly toDrawing: Affine;
}

const MM_PER_POINT = 25.4 / 72;
/** Free space between sheets, in shares of the largest one's longer side. */
const GAP = 0.06;
/** A grid of sheets has about the shape of a screen. */
const ASPECT = 1.6;

/** The size of a page as it is shown, mm. */
function sizeMm({ view: [x0 = 0, y0 = 0, x1 = 0, y1 = 0], rotate, userUnit }: PageFrame): [number, number] {
  const k = MM_PER_POINT * userUnit;
  const size: [number, number] = [Math.abs(x1 - x0) * k, Math.abs(y1 - y0) * k];
  return rotate % 180 === 0 ? size : [size[1], size[0]];
}

/** Lays pages out in rows, as one reads; the lower left corner of the first is the origin. */
export function layOutSheets(pages: readonly PageFrame[]): PlacedSheet[] {
  const sizes = pages.map(sizeMm);
  const widest = Math.max(...sizes.map(([width]) => width), 0);
  const highest = Math.max(...sizes.map(([, height]) => height), 0);
  const columns = Math.max(Math.round(Math.sqrt((pages.length * ASPECT * highest) / Math.max(widest, 1e-9))), 1);
  const gap = pages.length > 1 ? GAP * Math.max(widest, highest) : 0;
  return pages.map((page, index) => {
    const [width, height] = sizes[index]!;
    const minX = (index % columns) * (widest + gap);
    const minY = 0 - Math.floor(index / columns) * (highest + gap);
    return { minX, minY, maxX: minX + width, maxY: minY + height, toDrawing: placed(page, minX, minY) };
  });
}

/** Turns a page upright, scales it to mm and puts its lower left corner in its place. */
function placed({ view, rotate, userUnit }: PageFrame, minX: number, minY: number): Affine {
  const k = MM_PER_POINT * userUnit;
  const [x0, x1] = [Math.min(view[0]!, view[2]!), Math.max(view[0]!, view[2]!)];
  const [y0, y1] = [Math.min(view[1]!, view[3]!), Math.max(view[1]!, view[3]!)];
  switch (((rotate % 360) + 360) % 360) {
    case 90:
      return { a: 0, b: -k, c: k, d: 0, e: minX - y0 * k, f: minY + x1 * k };
    case 180:
      return { a: -k, b: 0, c: 0, d: -k, e: minX + x1 * k, f: minY + y1 * k };
    case 270:
      return { a: 0, b: k, c: -k, d: 0, e: minX + y1 * k, f: minY - x0 * k };
    default:
      return { a: k, b: 0, c: 0, d: k, e: minX - x0 * k, f: minY - y0 * k };
  }
}
