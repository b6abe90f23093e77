import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { join } from 'node:path';
import { textFrame } from '@gull-pane/core/drawing/letter-advance';
import type { Style, TextMark } from '@gull-pane/core/drawing/model';
import { Op } from '@gull-pane/core/drawing/path';
import { kindOf } from '@gull-pane/core/pick/kind-of';
import { encodeShapes, type ObjectShape } from '@gull-pane/core/pick/object-chunk';
import { MOST_LAYERS, OBJECTS_PER_CHUNK, encodeObjectColumns, objectKinds } from '@gull-pane/core/pick/object-index';
import { zOrder } from '@gull-pane/core/spatial/z-order';
import type { TextColumns } from '@gull-pane/protocol/texts';
import type { Collector } from './collect.ts';
import { RecordReader } from './record-reader.ts';
import type { StoredColumns } from './object-writer.ts';
import { collectGarbage } from '../threads/collect-garbage.ts';
import { PackedFiles } from './packed-files.ts';

/** Doubles hardly get smaller by trying harder. */
const LEVEL = 1;
/** Of more objects an index takes so much memory that it is freed as soon as it can be. */
export const MANY_OBJECTS = 1_000_000;

/** All that the index is made of, as plain data that a thread can be given. */
export interface IndexSource extends StoredColumns {
  /** minX, minY, maxX, maxY of each object. */
  readonly boxes: Float64Array;
  /** Bits of `Painted`. */
  readonly painted: Uint8Array;
  /** Half the width of its line, drawing units. */
  readonly halfWidths: Float64Array;
  readonly texts: readonly { readonly objectId: number; readonly mark: TextMark }[];
  readonly known: readonly { readonly objectId: number; readonly content: string }[];
}

/**
 * @param collector gives away what it knows of the objects
 * @param stored where their records are
 */
export function indexSourceOf(collector: Collector, stored: StoredColumns, styles: readonly Style[]): IndexSource {
  const { boxes, painted, lineStyles } = collector.takeObjectColumns();
  const halfWidths = new Float64Array(new SharedArrayBuffer(8 * painted.length)); // a thread gets it without a copy
  for (let object = 0; object < painted.length; object++) {
    const style = lineStyles.at(object);
    if (style > 0) halfWidths[object] = (styles[style - 1]?.width ?? 0) / 2;
  }
  return {
    boxes: boxes.view(),
    painted: painted.view(),
    halfWidths,
    ...stored,
    texts: collector.texts.map(({ objectId, mark }) => ({ objectId, mark })),
    known: collector.known,
  };
}

/**
 * Writes what answers where and what in the browser: `objects.index` with the box of every object, `N.objects` with their
 * exact shapes, `texts.json` with what stands in the drawing, all compressed beside the tiles.
 * @param folder of the revision, with the records of all objects
 */
export async function writeObjectIndex(source: IndexSource, folder: string): Promise<void> {
  const { boxes, painted, halfWidths, layers, offsets } = source;
  const order = neighbourly(source);
  if (order.length > MANY_OBJECTS) collectGarbage(); // what was sorted
  const files = new PackedFiles(join(folder, 'tiles'), 'here');
  const origin = originOf(source);
  const columns = {
    origin,
    boxes: new Float32Array(4 * order.length),
    halfWidths: new Float32Array(order.length),
    objects: order,
    layers: new Uint16Array(order.length),
    kinds: new Uint8Array(order.length),
  };
  const file = openSync(join(folder, 'objects.bin'), 'r');
  const records = new RecordReader(file, readSync, fstatSync(file).size);
  try {
    for (let from = 0; from < order.length; from += OBJECTS_PER_CHUNK) {
      const shapes: ObjectShape[] = [];
      for (let entry = from; entry < Math.min(from + OBJECTS_PER_CHUNK, order.length); entry++) {
        const object = order[entry]!;
        const { text, path } = records.at(offsets[object]!);
        const bits = painted[object]!;
        columns.boxes[4 * entry] = below(boxes[4 * object]! - origin.x);
        columns.boxes[4 * entry + 1] = below(boxes[4 * object + 1]! - origin.y);
        columns.boxes[4 * entry + 2] = above(boxes[4 * object + 2]! - origin.x);
        columns.boxes[4 * entry + 3] = above(boxes[4 * object + 3]! - origin.y);
        columns.halfWidths[entry] = halfWidths[object]!;
        columns.layers[entry] = Math.min(layers[object]!, MOST_LAYERS);
        columns.kinds[entry] = objectKinds.indexOf(text ? 'text' : kindOf(path, bits));
        shapes.push({ painted: bits, path: text ? framePath(text) : path });
      }
      await files.add(`${from / OBJECTS_PER_CHUNK}.objects`, encodeShapes(shapes), LEVEL);
    }
  } finally {
    closeSync(file);
  }
  await files.add('objects.index', encodeObjectColumns(columns), LEVEL);
  await files.add('texts.json', Buffer.from(JSON.stringify(textColumns(source))), LEVEL);
  await files.finish();
}

const framePath = (mark: TextMark): ObjectShape['path'] => ({
  ops: [Op.move, Op.line, Op.line, Op.line, Op.close],
  coords: textFrame(mark),
});

/** Gone to, an object with a property is so many times as wide as the letters of a text would be high. */
const OBJECT_PER_EM = 26;

/** What can be looked for: texts where they stand, and properties where their objects lie. */
function textColumns({ texts, known, boxes, layers: layerOf }: IndexSource): TextColumns {
  const rows = [
    ...texts.map(({ objectId, mark }) => {
      const [x0, y0, x1, y1] = textFrame(mark) as [number, number, number, number];
      const width = Math.hypot(x1 - x0, y1 - y0);
      return { ...mark, content: mark.text, objectId, width };
    }),
    ...known.map(({ objectId, content }) => {
      const [minX, minY, maxX, maxY] = boxes.subarray(4 * objectId, 4 * objectId + 4);
      const size = Math.max(maxX! - minX!, maxY! - minY!) / OBJECT_PER_EM;
      const place = { x: minX!, y: (minY! + maxY!) / 2, size, width: maxX! - minX!, angleRad: 0 };
      return { ...place, anchor: 'start' as const, content, objectId };
    }),
  ];
  return {
    contents: rows.map(({ content }) => content),
    objects: rows.map(({ objectId }) => objectId),
    layers: rows.map(({ objectId }) => layerOf[objectId] ?? 0),
    x: rows.map(({ x }) => x),
    y: rows.map(({ y }) => y),
    sizes: rows.map(({ size }) => size),
    anglesRad: rows.map(({ angleRad }) => angleRad),
    widths: rows.map(({ width }) => width),
    anchors: rows.map(({ anchor }) => anchor),
  };
}

/** Middle of the drawing: boxes in single precision are most precise about it. */
function originOf({ boxes }: IndexSource): { x: number; y: number } {
  const [minX, minY, maxX, maxY] = spanOf(boxes, 0);
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
}

/** Objects are sorted by their size into so many classes, each a quarter as large as the one before. */
const SIZE_CLASSES = 4;

/** 0 for what is at least a sixteenth as large as the whole. */
function sizeClassOf(size: number, whole: number): number {
  const steps = Math.ceil(Math.log(whole / (16 * Math.max(size, Number.MIN_VALUE))) / Math.log(4));
  return Math.min(Math.max(steps, 0), SIZE_CLASSES - 1);
}

/**
 * Objects in an order where those of about one size follow each other, and of these neighbours: what lies under a place
 * so stands in few files, since large things, which lie under many, are together. The few farthest out don't spoil the
 * grid.
 */
function neighbourly({ boxes: all }: IndexSource): Uint32Array<ArrayBuffer> {
  const [minX, minY, maxX, maxY] = spanOf(all, 0.01);
  const count = all.length >> 2;
  const whole = Math.max(maxX - minX, maxY - minY);
  // class, place and number in one double: a sort of numbers needs no function
  const keys = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const x = (all[4 * i]! + all[4 * i + 2]!) / 2;
    const y = (all[4 * i + 1]! + all[4 * i + 3]!) / 2;
    const size = Math.max(all[4 * i + 2]! - all[4 * i]!, all[4 * i + 3]! - all[4 * i + 1]!);
    const place = zOrder((x - minX) / (maxX - minX || 1), (y - minY) / (maxY - minY || 1));
    keys[i] = (sizeClassOf(size, whole) * PLACES + place) * MOST_OBJECTS + i;
  }
  keys.sort();
  const order = new Uint32Array(count);
  for (let i = 0; i < count; i++) order[i] = keys[i]! % MOST_OBJECTS;
  return order;
}

/** Places along the curve; with the class and the object's number they fill the 53 bits of a double. */
const PLACES = 2 ** 20;
const MOST_OBJECTS = 2 ** 31;

const SAMPLES = 20_000;

/** The box of the objects' boxes, without a share of them at each side. */
function spanOf(boxes: Float64Array, leaveOut: number): [number, number, number, number] {
  const count = boxes.length >> 2;
  if (count === 0) return [0, 0, 0, 0];
  const step = leaveOut > 0 ? Math.max(Math.floor(count / SAMPLES), 1) : 1;
  const sorted = (k: number): Float64Array => {
    const values = new Float64Array(Math.ceil(count / step));
    for (let i = 0; i < values.length; i++) values[i] = boxes[4 * i * step + k]!;
    return leaveOut > 0 ? values.sort() : extremes(values);
  };
  const low = (k: number): number => {
    const values = sorted(k);
    return values[Math.floor(leaveOut * (values.length - 1))]!;
  };
  const high = (k: number): number => {
    const values = sorted(k);
    return values[Math.ceil((1 - leaveOut) * (values.length - 1))]!;
  };
  return [low(0), low(1), high(2), high(3)];
}

/** The least and the largest of some numbers. */
function extremes(values: Float64Array): Float64Array {
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < values.length; i++) {
    if (values[i]! < least) least = values[i]!;
    if (values[i]! > most) most = values[i]!;
  }
  return new Float64Array([least, most]);
}

/** The next number in single precision that isn't above. */
function below(value: number): number {
  const near = Math.fround(value);
  return near <= value ? near : nextSingle(near, -1);
}
const above = (value: number): number => -below(-value);

const single = new Float32Array(1);
const bits = new Int32Array(single.buffer);
function nextSingle(value: number, direction: -1): number {
  single[0] = value;
  if (value === 0) return direction * 2 ** -149;
  bits[0]! += value > 0 ? direction : -direction;
  return single[0];
}
