import { Growable } from '../geometry/growable.ts';
import type { TextMark } from '../drawing/model.ts';

export const ItemKind = { line: 0, fill: 1, text: 2 } as const;
export type ItemKindCode = (typeof ItemKind)[keyof typeof ItemKind];

/** A line with more chords than this is placed in pieces, so that no tile gets out of hand. */
export const MAX_CHORDS_PER_ITEM = 256;
/** What drawing one text costs, in segments. */
const TEXT_WEIGHT = 4;

/**
 * Everything that tiles are made of, as columns: polylines, triangle sets and texts in drawing units, each with its box,
 * style and object. An object with a fill and a stroke has several items, a long line too.
 */
export class ItemTable {
  readonly kind = new Growable(Uint8Array);
  readonly style = new Growable(Uint32Array);
  readonly object = new Growable(Uint32Array);
  /** What drawing it costs: segments or triangles. */
  readonly weight = new Growable(Uint32Array);
  /** minX, minY, maxX, maxY of each item. */
  readonly boxes = new Growable(Float64Array);
  /** First number of the item in {@link xy}; for texts the index in {@link texts}. */
  readonly start = new Growable(Float64Array);
  /** How many points the item has in {@link xy}. */
  readonly points = new Growable(Uint32Array);
  /** Length along the element where the item begins, so that dashes go on over pieces. */
  readonly along = new Growable(Float64Array);
  readonly xy = new Growable(Float64Array);
  readonly texts: TextMark[] = [];

  get length(): number {
    return this.kind.length;
  }

  /** @param xy x, y pairs of a polyline, at least two points */
  addLine(xy: ArrayLike<number>, style: number, object: number): void {
    const chords = (xy.length >> 1) - 1;
    let along = 0;
    for (let from = 0; from < chords; from += MAX_CHORDS_PER_ITEM) {
      const to = Math.min(from + MAX_CHORDS_PER_ITEM, chords);
      const piece = Array.prototype.slice.call(xy, 2 * from, 2 * to + 2) as number[];
      this.#add(ItemKind.line, style, object, to - from, piece, along);
      for (let i = 2; i < piece.length; i += 2)
        along += Math.hypot(piece[i]! - piece[i - 2]!, piece[i + 1]! - piece[i - 1]!);
    }
  }

  /** @param xy x, y pairs, three points a triangle */
  addTriangles(xy: ArrayLike<number>, style: number, object: number): void {
    const step = 6 * MAX_CHORDS_PER_ITEM;
    for (let from = 0; from < xy.length; from += step) {
      const piece = Array.prototype.slice.call(xy, from, from + step) as number[];
      this.#add(ItemKind.fill, style, object, piece.length / 6, piece, 0);
    }
  }

  addText(mark: TextMark, style: number, object: number): void {
    // the box of a text without its font: wide enough for any
    const reach = mark.size * Math.max(mark.text.length, 1);
    const box = [mark.x - reach, mark.y - reach, mark.x + reach, mark.y + reach];
    this.#columns(ItemKind.text, style, object, TEXT_WEIGHT, box, this.texts.length, 0, 0);
    this.texts.push(mark);
  }

  /** Size that decides when an item becomes visible, drawing units: its longer side; of a text the height. */
  sizeOf(item: number): number {
    if (this.kind.at(item) === ItemKind.text) return this.texts[this.start.at(item)]!.size;
    return Math.max(
      this.boxes.at(4 * item + 2) - this.boxes.at(4 * item),
      this.boxes.at(4 * item + 3) - this.boxes.at(4 * item + 1),
    );
  }

  #add(kind: ItemKindCode, style: number, object: number, weight: number, xy: number[], along: number): void {
    const box = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < xy.length; i += 2) {
      box[0] = Math.min(box[0]!, xy[i]!);
      box[1] = Math.min(box[1]!, xy[i + 1]!);
      box[2] = Math.max(box[2]!, xy[i]!);
      box[3] = Math.max(box[3]!, xy[i + 1]!);
    }
    this.#columns(kind, style, object, weight, box, this.xy.length, xy.length >> 1, along);
    this.xy.append(xy);
  }

  #columns(
    kind: ItemKindCode,
    style: number,
    object: number,
    weight: number,
    box: readonly number[],
    start: number,
    points: number,
    along: number,
  ): void {
    this.kind.push(kind);
    this.style.push(style);
    this.object.push(object);
    this.weight.push(weight);
    this.boxes.append(box);
    this.start.push(start);
    this.points.push(points);
    this.along.push(along);
  }
}
