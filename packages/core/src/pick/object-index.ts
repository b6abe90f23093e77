import type { Box2 } from '../geometry/clip.ts';
import type { Vec2 } from '../geometry/vec.ts';

/** What an object is, as it is told to people and compared by *same kind*. The order is that of the files. */
export const objectKinds = [
  'line',
  'polyline',
  'outline',
  'circle',
  'arc',
  'curve',
  'area',
  'text',
  'picture',
] as const;
export type ObjectKind = (typeof objectKinds)[number];

/** How an object is painted, as bits. */
export const Painted = { line: 1, fill: 2, evenOdd: 4, picture: 8 } as const;

/** Where every object of a drawing lies, as columns; objects that are near each other mostly follow each other. */
export interface ObjectColumns {
  /** What the boxes are relative to, drawing units. */
  readonly origin: Vec2;
  /** minX, minY, maxX, maxY of each object in single precision, rounded outwards: the object never reaches beyond. */
  readonly boxes: Float32Array<ArrayBuffer>;
  /** Half the width of its line, drawing units. */
  readonly halfWidths: Float32Array<ArrayBuffer>;
  readonly objects: Uint32Array<ArrayBuffer>;
  readonly layers: Uint16Array<ArrayBuffer>;
  /** Place in {@link objectKinds}. */
  readonly kinds: Uint8Array<ArrayBuffer>;
}

/** Objects whose exact geometry lies in one file. */
export const OBJECTS_PER_CHUNK = 1024;
/** Layers beyond this share one number: hidden together, found together. */
export const MOST_LAYERS = 0xffff;

const MAGIC = 0x314f5047; // "GPO1"
const HEADER_BYTES = 32;
const BYTES_PER_OBJECT = 16 + 4 + 4 + 2 + 1;

/** The columns as one file: magic, count, two zeros; the origin as doubles; the columns one after another. Little-endian. */
export function encodeObjectColumns(columns: ObjectColumns): Uint8Array<ArrayBuffer> {
  const { origin, boxes, halfWidths, objects, layers, kinds } = columns;
  const bytes = new Uint8Array(HEADER_BYTES + BYTES_PER_OBJECT * objects.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, objects.length, true);
  view.setFloat64(16, origin.x, true);
  view.setFloat64(24, origin.y, true);
  let at = HEADER_BYTES;
  for (const column of [boxes, halfWidths, objects, layers, kinds]) {
    bytes.set(new Uint8Array(column.buffer, column.byteOffset, column.byteLength), at);
    at += column.byteLength;
  }
  return bytes;
}

/** @throws RangeError if the bytes are not what {@link encodeObjectColumns} wrote */
export function decodeObjectColumns(bytes: Uint8Array): ObjectColumns {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const magic = bytes.length >= HEADER_BYTES ? view.getUint32(0, true) : -1;
  if (magic !== MAGIC) throw new RangeError(`decodeObjectColumns: magic is ${magic}, expected ${MAGIC}`);
  const count = view.getUint32(4, true);
  const expected = HEADER_BYTES + BYTES_PER_OBJECT * count;
  if (bytes.length !== expected)
    throw new RangeError(`decodeObjectColumns: ${bytes.length} bytes, expected ${expected}`);
  let at = HEADER_BYTES;
  const next = (byteLength: number): ArrayBuffer => {
    const part = bytes.slice(at, at + byteLength); // a copy, so that it is aligned
    at += byteLength;
    return part.buffer;
  };
  return {
    origin: { x: view.getFloat64(16, true), y: view.getFloat64(24, true) },
    boxes: new Float32Array(next(16 * count)),
    halfWidths: new Float32Array(next(4 * count)),
    objects: new Uint32Array(next(4 * count)),
    layers: new Uint16Array(next(2 * count)),
    kinds: new Uint8Array(next(count)),
  };
}

/** How many boxes a node of the tree has. */
const FANOUT = 16;

/**
 * Finds objects by where they lie: a packed R-tree over columns that are in the order of a space-filling curve (I. Kamel
 * and C. Faloutsos, "On packing R-trees", 1993). Entries are named by their place in the columns.
 */
export class ObjectIndex {
  /** Boxes of the nodes, the lowest level first; each holds the FANOUT entries or nodes below it. */
  readonly #levels: Float32Array[] = [];

  constructor(readonly columns: ObjectColumns) {
    let below = columns.boxes;
    while (below.length > 4 * FANOUT) {
      const count = Math.ceil(below.length / 4 / FANOUT);
      const level = new Float32Array(4 * count);
      for (let node = 0; node < count; node++) joinBoxes(below, FANOUT * node, level, node);
      this.#levels.push(level);
      below = level;
    }
  }

  get length(): number {
    return this.columns.objects.length;
  }

  /**
   * Calls back for every entry whose box meets a box, until it is told that this is enough.
   * @param box drawing coordinates @param visit returns true to end the search
   */
  search(box: Box2, visit: (entry: number) => boolean): void {
    const { origin, boxes } = this.columns;
    const [minX, minY, maxX, maxY] = [
      box.minX - origin.x,
      box.minY - origin.y,
      box.maxX - origin.x,
      box.maxY - origin.y,
    ];
    const meets = (of: Float32Array, i: number): boolean =>
      of[i]! <= maxX && of[i + 2]! >= minX && of[i + 1]! <= maxY && of[i + 3]! >= minY;
    const descend = (level: number, node: number): boolean => {
      const below = level === 0 ? boxes : this.#levels[level - 1]!;
      const end = Math.min(FANOUT * (node + 1), below.length >> 2);
      for (let i = FANOUT * node; i < end; i++) {
        if (!meets(below, 4 * i)) continue;
        if (level === 0 ? visit(i) : descend(level - 1, i)) return true;
      }
      return false;
    };
    descend(this.#levels.length, 0);
  }

  /** Entries in the order of the distance of their boxes from a place; the distance is in drawing units. */
  *outwardsFrom(at: Vec2): Generator<{ readonly entry: number; readonly distance: number }> {
    const { origin, boxes } = this.columns;
    const [x, y] = [at.x - origin.x, at.y - origin.y];
    const queue = new NearestFirst();
    const push = (level: number, node: number): void => {
      const below = level === 0 ? boxes : this.#levels[level - 1]!;
      const end = Math.min(FANOUT * (node + 1), below.length >> 2);
      for (let i = FANOUT * node; i < end; i++) {
        const dx = Math.max(below[4 * i]! - x, x - below[4 * i + 2]!, 0);
        const dy = Math.max(below[4 * i + 1]! - y, y - below[4 * i + 3]!, 0);
        queue.push(Math.hypot(dx, dy), level, i);
      }
    };
    push(this.#levels.length, 0);
    for (let next = queue.pop(); next; next = queue.pop()) {
      if (next.level === 0) yield { entry: next.index, distance: next.distance };
      else push(next.level - 1, next.index);
    }
  }
}

function joinBoxes(below: Float32Array, first: number, level: Float32Array, node: number): void {
  const end = Math.min(first + FANOUT, below.length >> 2);
  level.set([Infinity, Infinity, -Infinity, -Infinity], 4 * node);
  for (let i = first; i < end; i++) {
    for (const k of [0, 1]) level[4 * node + k] = Math.min(level[4 * node + k]!, below[4 * i + k]!);
    for (const k of [2, 3]) level[4 * node + k] = Math.max(level[4 * node + k]!, below[4 * i + k]!);
  }
}

interface Waiting {
  readonly distance: number;
  readonly level: number;
  readonly index: number;
}

/** A binary heap: what is nearest comes out first. */
class NearestFirst {
  readonly #heap: Waiting[] = [];

  push(distance: number, level: number, index: number): void {
    const heap = this.#heap;
    heap.push({ distance, level, index });
    let child = heap.length - 1;
    while (child > 0) {
      const parent = (child - 1) >> 1;
      if (heap[parent]!.distance <= heap[child]!.distance) return;
      [heap[parent], heap[child]] = [heap[child]!, heap[parent]!];
      child = parent;
    }
  }

  pop(): Waiting | undefined {
    const heap = this.#heap;
    const top = heap[0];
    const last = heap.pop();
    if (heap.length === 0 || !last) return top;
    heap[0] = last;
    for (let parent = 0; ;) {
      let least = parent;
      for (const child of [2 * parent + 1, 2 * parent + 2])
        if (child < heap.length && heap[child]!.distance < heap[least]!.distance) least = child;
      if (least === parent) return top;
      [heap[parent], heap[least]] = [heap[least]!, heap[parent]!];
      parent = least;
    }
  }
}
