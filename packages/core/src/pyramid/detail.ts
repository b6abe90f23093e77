import { flattenPath, within } from '../drawing/flatten.ts';
import type { FillRule } from '../drawing/model.ts';
import { Op, coordsOfOp, type Path } from '../drawing/path.ts';
import type { Box2 } from '../geometry/clip.ts';
import { Growable } from '../geometry/growable.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { ItemKind, type ItemTable } from './items.ts';
import type { StyleRun } from './tile-format.ts';

/**
 * A tile's detail: the definitions of its lines or of its areas, fetched when it is seen so closely that the tile's own
 * coarse form would show. Doubles relative to the tile's origin.
 *
 * A header of four uint32 (magic "GPD1", items, steps, doubles); per item a double, its length along the element, and
 * four uint32, style, object, number of steps and fill rule (1 if even-odd); the steps, a byte each, padded to eight;
 * the doubles. Little-endian.
 */
const MAGIC = 0x31445047;
const HEADER_BYTES = 16;
const ITEM_BYTES = 24;
const padded = (length: number): number => (length + 7) & ~7;

export interface DetailItem {
  readonly style: number;
  readonly object: number;
  /** Length along the element where the item begins, drawing units. */
  readonly along: number;
  readonly fillRule: FillRule;
  readonly path: Path;
}

/** @param items the tile's lines, or its areas, in the order of drawing */
export function encodeDetail(table: ItemTable, items: readonly number[], origin: Vec2): Uint8Array<ArrayBuffer> {
  let [steps, doubles] = [0, 0];
  for (const item of items) {
    const defined = table.opsCount.at(item);
    steps += defined > 0 ? defined : table.points.at(item);
    doubles += defined > 0 ? table.coordsCountOf(item) : 2 * table.points.at(item);
  }
  const opsAt = HEADER_BYTES + ITEM_BYTES * items.length;
  const coordsAt = opsAt + padded(steps);
  const bytes = new Uint8Array(coordsAt + 8 * doubles);
  // everything stands at a place that its kind of number can be written at
  const words = new Uint32Array(bytes.buffer, 0, opsAt / 4);
  const lengths = new Float64Array(bytes.buffer, 0, opsAt / 8);
  const numbers = new Float64Array(bytes.buffer, coordsAt);
  words.set([MAGIC, items.length, steps, doubles]);
  const xy = table.xy.view();
  const ops = table.ops.view();
  const coords = table.coords.view();
  const { x: originX, y: originY } = origin;
  let op = opsAt;
  let coord = 0;
  for (let index = 0; index < items.length; index++) {
    const item = items[index]!;
    const at = (HEADER_BYTES + ITEM_BYTES * index) / 4;
    const defined = table.opsCount.at(item);
    const count = table.points.at(item);
    lengths[at / 2] = table.along.at(item);
    words[at + 2] = table.style.at(item);
    words[at + 3] = table.object.at(item);
    words[at + 4] = defined > 0 ? defined : count;
    words[at + 5] = table.ruleOf(item) === 'evenodd' ? 1 : 0;
    if (defined === 0) {
      // an area without a definition is its triangles, each a ring
      const begins = table.kind.at(item) === ItemKind.fill ? 3 : count;
      const start = table.start.at(item);
      for (let i = 0; i < count; i++) {
        bytes[op++] = i % begins === 0 ? Op.move : Op.line;
        numbers[coord++] = xy[start + 2 * i]! - originX;
        numbers[coord++] = xy[start + 2 * i + 1]! - originY;
      }
      continue;
    }
    const first = table.opsStart.at(item);
    let from = table.coordsStart.at(item);
    for (let i = first; i < first + defined; i++) {
      const code = ops[i]!;
      bytes[op++] = code;
      const end = from + coordsOfOp[code]!;
      for (let k = from; k < end; k += 2) {
        // half-axes and angles of arcs are no points
        const isPoint = code !== Op.arc || k === from || k === end - 2;
        numbers[coord++] = isPoint ? coords[k]! - originX : coords[k]!;
        numbers[coord++] = isPoint ? coords[k + 1]! - originY : coords[k + 1]!;
      }
      from = end;
    }
  }
  return bytes;
}

/** @throws RangeError if the bytes are not a detail that {@link encodeDetail} wrote */
export function decodeDetail(bytes: Uint8Array): DetailItem[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const word = (at: number): number => (at + 4 <= bytes.length ? view.getUint32(at, true) : -1);
  const [magic, count, steps, doubles] = [word(0), word(4), word(8), word(12)];
  if (magic !== MAGIC) throw new RangeError(`decodeDetail: magic is ${magic}, expected ${MAGIC}`);
  const opsAt = HEADER_BYTES + ITEM_BYTES * count;
  const coordsAt = opsAt + padded(steps);
  const expected = coordsAt + 8 * doubles;
  if (bytes.length !== expected) throw new RangeError(`decodeDetail: ${bytes.length} bytes, expected ${expected}`);
  const items: DetailItem[] = [];
  let op = opsAt;
  let coord = coordsAt;
  for (let index = 0; index < count; index++) {
    const at = HEADER_BYTES + ITEM_BYTES * index;
    const ops = bytes.subarray(op, op + word(at + 16));
    op += ops.length;
    let width = 0;
    for (const code of ops) width += coordsOfOp[code] ?? Infinity;
    if (coord + 8 * width > bytes.length) throw new RangeError(`decodeDetail: item ${index} is damaged`);
    const coords = new Float64Array(width);
    for (let i = 0; i < width; i++, coord += 8) coords[i] = view.getFloat64(coord, true);
    const fillRule = word(at + 20) === 1 ? 'evenodd' : 'nonzero';
    const [style, object] = [word(at + 8), word(at + 12)];
    items.push({ along: view.getFloat64(at, true), style, object, fillRule, path: { ops, coords } });
  }
  return items;
}

/** The path with its points moved by −`origin`; half-axes and angles of arcs are no points. */
export function shifted({ ops, coords }: Path, origin: Vec2): Path {
  const moved = new Float64Array(coords.length);
  for (let i = 0; i < coords.length; i++) moved[i] = coords[i]!;
  let at = 0;
  for (let i = 0; i < ops.length; i++) {
    const width = coordsOfOp[ops[i]!]!;
    for (let k = 0; k < width; k += 2) {
      if (ops[i] === Op.arc && k > 0 && k < 8) continue;
      moved[at + k]! -= origin.x;
      moved[at + k + 1]! -= origin.y;
    }
    at += width;
  }
  return { ops, coords: moved };
}

/** Lines as tiles hold them, made of a detail for one scale. */
export interface RefinedLines {
  readonly positions: Float32Array<ArrayBuffer>;
  /** x, y a vertex: what single precision lost. */
  readonly low: Float32Array<ArrayBuffer>;
  readonly styles: Uint16Array<ArrayBuffer>;
  readonly along: Float32Array<ArrayBuffer>;
  readonly lines: Uint32Array<ArrayBuffer>;
  readonly lineRuns: readonly StyleRun[];
  readonly objects: Uint32Array<ArrayBuffer>;
}

/**
 * Turns a detail into lines that keep to its curves.
 * @param items as they were decoded; their order is kept, so runs of one style stay together
 * @param chordError drawing units
 * @param region what is near the view, relative to the tile's origin; the rest may be coarse
 */
export function refine(items: readonly DetailItem[], chordError: number, region?: Box2): RefinedLines {
  const positions = new Growable(Float32Array);
  const low = new Growable(Float32Array);
  const styles = new Growable(Uint16Array);
  const along = new Growable(Float32Array);
  const lines = new Growable(Uint32Array);
  const objects = new Growable(Uint32Array);
  const lineRuns: { style: number; start: number; count: number }[] = [];
  const closeness = within(chordError, region);
  for (const { style, object, along: begin, path } of items) {
    if (lineRuns.at(-1)?.style !== style) lineRuns.push({ style, start: lines.length, count: 0 });
    objects.append([styles.length, object]);
    let length = begin;
    let lastX = 0;
    let lastY = 0;
    let isFirst = true;
    const add = (x: number, y: number): void => {
      if (!isFirst) {
        length += Math.sqrt((x - lastX) * (x - lastX) + (y - lastY) * (y - lastY));
        lines.append([styles.length - 1, styles.length]);
      }
      positions.append([x, y, 0]);
      low.append([x - Math.fround(x), y - Math.fround(y)]);
      styles.push(style);
      along.push(length);
      [lastX, lastY, isFirst] = [x, y, false];
    };
    const move = (x: number, y: number): void => {
      isFirst = true;
      add(x, y);
    };
    flattenPath(path, { move, line: add, close: () => undefined }, closeness);
    const run = lineRuns.at(-1)!;
    run.count = lines.length - run.start;
  }
  return {
    positions: positions.view().slice(),
    low: low.view().slice(),
    styles: styles.view().slice(),
    along: along.view().slice(),
    lines: lines.view().slice(),
    lineRuns,
    objects: objects.view().slice(),
  };
}
