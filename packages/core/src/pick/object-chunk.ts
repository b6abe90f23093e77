import { coordsOfOp, type Path } from '../drawing/path.ts';

/** The exact geometry of one object: the doubles of the file. Of a text it is the frame round its letters. */
export interface ObjectShape {
  /** Bits of `Painted`. */
  readonly painted: number;
  readonly path: Path;
}

/**
 * A file of shapes: magic, count, steps, doubles (uint32 each); per shape two uint32, its bits and its number of steps;
 * the steps, a byte each, padded to eight; the doubles, absolute. Little-endian.
 */
const MAGIC = 0x31435047; // "GPC1"
const HEADER_BYTES = 16;
const SHAPE_BYTES = 8;
const padded = (length: number): number => (length + 7) & ~7;

/** Writes the exact shapes of objects as bytes, which `decodeShapes` reads. */
export function encodeShapes(shapes: readonly ObjectShape[]): Uint8Array<ArrayBuffer> {
  const steps = shapes.reduce((sum, { path }) => sum + path.ops.length, 0);
  const doubles = shapes.reduce((sum, { path }) => sum + path.coords.length, 0);
  let op = HEADER_BYTES + SHAPE_BYTES * shapes.length;
  const coordsAt = op + padded(steps);
  const bytes = new Uint8Array(coordsAt + 8 * doubles);
  const view = new DataView(bytes.buffer);
  [MAGIC, shapes.length, steps, doubles].forEach((word, index) => view.setUint32(4 * index, word, true));
  const numbers = new Float64Array(bytes.buffer, coordsAt, doubles);
  let coord = 0;
  for (let index = 0; index < shapes.length; index++) {
    const { painted, path } = shapes[index]!;
    const { ops, coords } = path;
    view.setUint32(HEADER_BYTES + SHAPE_BYTES * index, painted, true);
    view.setUint32(HEADER_BYTES + SHAPE_BYTES * index + 4, ops.length, true);
    for (let i = 0; i < ops.length; i++) bytes[op++] = ops[i]!;
    for (let i = 0; i < coords.length; i++) numbers[coord++] = coords[i]!;
  }
  return bytes;
}

/**
 * The shapes of a file, made when they are asked for: what is kept is the file's own bytes, not an object a shape.
 */
export class ShapeChunk {
  /** By shape, and one more: where its steps and its doubles begin. */
  readonly #steps: Uint32Array;
  readonly #doubles: Uint32Array;
  readonly #ops: Uint8Array;
  readonly #coords: Float64Array;
  readonly #painted: Uint32Array;

  /** @throws RangeError if the bytes are not what {@link encodeShapes} wrote */
  constructor(file: Uint8Array) {
    const bytes = file.byteOffset % 8 === 0 ? file : file.slice(); // doubles are read where they stand
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const word = (at: number): number => (at + 4 <= bytes.length ? view.getUint32(at, true) : -1);
    const [magic, count, steps, doubles] = [word(0), word(4), word(8), word(12)];
    if (magic !== MAGIC) throw new RangeError(`ShapeChunk: magic is ${magic}, expected ${MAGIC}`);
    const opsAt = HEADER_BYTES + SHAPE_BYTES * count;
    const coordsAt = opsAt + padded(steps);
    const expected = coordsAt + 8 * doubles;
    if (bytes.length !== expected) throw new RangeError(`ShapeChunk: ${bytes.length} bytes, expected ${expected}`);
    this.#ops = bytes.subarray(opsAt, opsAt + steps);
    this.#coords = new Float64Array(bytes.buffer, bytes.byteOffset + coordsAt, doubles);
    this.#painted = new Uint32Array(count);
    this.#steps = new Uint32Array(count + 1);
    this.#doubles = new Uint32Array(count + 1);
    for (let index = 0; index < count; index++) {
      const at = HEADER_BYTES + SHAPE_BYTES * index;
      this.#painted[index] = word(at);
      const begin = this.#steps[index]!;
      const end = begin + word(at + 4);
      let width = 0;
      for (let op = begin; op < end; op++) width += coordsOfOp[this.#ops[op]!] ?? Infinity;
      const next = this.#doubles[index]! + width;
      if (end > steps || next > doubles) throw new RangeError(`ShapeChunk: shape ${index} is damaged`);
      this.#steps[index + 1] = end;
      this.#doubles[index + 1] = next;
    }
  }

  get length(): number {
    return this.#painted.length;
  }

  at(index: number): ObjectShape | undefined {
    if (index < 0 || index >= this.length) return undefined;
    const ops = this.#ops.subarray(this.#steps[index], this.#steps[index + 1]);
    const coords = this.#coords.subarray(this.#doubles[index], this.#doubles[index + 1]);
    return { painted: this.#painted[index]!, path: { ops, coords } };
  }
}
