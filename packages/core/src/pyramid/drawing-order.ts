import { zOrder } from '../spatial/z-order.ts';
import { ItemKind, type ItemTable } from './items.ts';

/** How a style looks, as far as its place in a tile depends on it. */
export interface TileStyle {
  /** Red, green, blue, alpha, 0 … 1. */
  readonly colour: readonly [number, number, number, number];
  readonly isDashed: boolean;
  /** Stroke width, drawing units; the lines of a tile stand in rising order of it. */
  readonly width: number;
}

/** Lines before fills, unbroken before dashed, thin before heavy: what is drawn alike stands together. */
export function inDrawingOrder(
  table: ItemTable,
  items: readonly number[],
  styleOf: (style: number) => TileStyle,
): number[] {
  const rank = new Map<number, number>();
  for (const item of items) rank.set(table.style.at(item), 0);
  [...rank.keys()]
    .sort((a, b) => {
      const [one, other] = [styleOf(a), styleOf(b)];
      return Number(one.isDashed) - Number(other.isDashed) || one.width - other.width || a - b;
    })
    .forEach((style, index) => rank.set(style, index));
  const drawn = new Uint32Array(items.filter((item) => table.kind.at(item) !== ItemKind.text)).sort();
  if (rank.size > MOST_RANKS || drawn.length > MOST_ITEMS)
    throw new RangeError(`inDrawingOrder: a tile with ${rank.size} styles and ${drawn.length} items`);
  const place = alongCurve(table, items);
  // all that decides in one double each: a sort of numbers needs no function
  const keys = new Float64Array(drawn.length);
  for (let index = 0; index < drawn.length; index++) {
    const item = drawn[index]!;
    const drawnAlike = table.kind.at(item) * MOST_RANKS + rank.get(table.style.at(item))!;
    keys[index] = (drawnAlike * PLACES + place(item)) * MOST_ITEMS + index;
  }
  keys.sort();
  const ordered = new Array<number>(keys.length);
  for (let i = 0; i < keys.length; i++) ordered[i] = drawn[keys[i]! % MOST_ITEMS]!;
  return ordered;
}

/** Places along the curve; with kinds, ranks and items they fill the 53 bits of a double. */
const PLACES = 2 ** 20;
const MOST_RANKS = 2 ** 13;
const MOST_ITEMS = 2 ** 18;

/** Tells where items lie along a Z-order curve over their box. */
function alongCurve(table: ItemTable, items: readonly number[]): (item: number) => number {
  const centre = (item: number, axis: 0 | 1): number =>
    (table.boxes.at(4 * item + axis) + table.boxes.at(4 * item + axis + 2)) / 2;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const item of items) {
    const [x, y] = [centre(item, 0), centre(item, 1)];
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
  }
  const size = Math.max(maxX - minX, maxY - minY) || 1;
  return (item) => zOrder((centre(item, 0) - minX) / size, (centre(item, 1) - minY) / size);
}
