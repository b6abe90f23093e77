import { closeSync, openSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import type { TextMark } from '@gull-pane/core/drawing/model';
import type { Path } from '@gull-pane/core/drawing/path';
import { Growable } from '@gull-pane/core/geometry/growable';
import type { SolidObject, SolidPart } from '@gull-pane/core/solid/solid-model';
import { HEADER_BYTES, TOLD_FILE, padded } from './object-record.ts';

const FLUSH_BYTES = 1 << 20;

/** Of each object. */
export interface StoredColumns {
  /** Where its record begins in `objects.bin`, byte. */
  readonly offsets: Float64Array;
  readonly layers: Uint32Array;
}

/** A shorter list of triangles is written each time: numbers. */
const LEAST_SHARED = 24;
/** Rows of the index that are written at once. */
const ROWS_AT_ONCE = 1 << 14;

/** Writes the records of objects, their index, and what the source says of them. */
export class ObjectWriter {
  readonly #file: number;
  #offsets = new Growable(Float64Array, 'shared');
  #nodes = new Growable(Uint32Array, 'shared');
  #waiting: Buffer[] = [];
  #waitingBytes = 0;
  /** Where small records are put together. */
  #block = Buffer.alloc(0);
  #blockUsed = 0;
  #written = 0;
  #told: number | null = null;
  #toldLines: string[] = [];
  #toldCharacters = 0;
  /** Where triangles of shapes that stand at several places were written first, byte. */
  readonly #facesAt = new WeakMap<object, number>();

  constructor(private readonly folder: string) {
    this.#file = openSync(join(folder, 'objects.bin'), 'w');
  }

  /** @returns the object's id */
  addPath(path: Path, layerNode: number, style = 0): number {
    const { ops, coords } = path;
    const steps = padded(ops.length);
    const record = this.#room(HEADER_BYTES + steps + 8 * coords.length);
    record.writeUInt32LE(ops.length, 4);
    record.writeUInt32LE(coords.length, 8);
    record.writeUInt32LE(style, 12);
    for (let i = 0; i < ops.length; i++) record[HEADER_BYTES + i] = ops[i]!;
    const numbers = new Float64Array(record.buffer, record.byteOffset + HEADER_BYTES + steps, coords.length);
    for (let i = 0; i < coords.length; i++) numbers[i] = coords[i]!;
    return this.#next(record, layerNode);
  }

  addText(mark: TextMark, layerNode: number, style = 0): number {
    const json = Buffer.from(JSON.stringify(mark));
    const record = this.#room(HEADER_BYTES + padded(json.length));
    record.writeUInt32LE(1, 0);
    record.writeUInt32LE(json.length, 4);
    record.writeUInt32LE(style, 12);
    json.copy(record, HEADER_BYTES);
    return this.#next(record, layerNode);
  }

  /** @param parts as the source has them */
  addSolid({ name, id, layer, facts = [] }: SolidObject, parts: readonly SolidPart[]): number {
    const known = parts.map(({ shape }) => shape && this.#facesAt.get(shape.key));
    const sizes = parts.map(({ material, positions, triangles, edges, points }, part) => ({
      material,
      positions: positions.length,
      triangles: triangles.length,
      ...(known[part] === undefined ? {} : { facesAt: known[part] }),
      edges: edges?.length ?? 0,
      // a colour is one number: red, green, blue, a byte each
      ...(points ? { colours: points.colours ? positions.length / 3 : 0 } : {}),
    }));
    const json = JSON.stringify({ name, ...(id === undefined ? {} : { id }), facts, parts: sizes });
    const length = Buffer.byteLength(json);
    const doubles = sizes.reduce(
      (sum, { positions, triangles, edges, colours = 0, facesAt }) =>
        sum + positions + (facesAt === undefined ? triangles : 0) + edges + colours,
      0,
    );
    const record = this.#room(HEADER_BYTES + padded(length) + 8 * doubles);
    record.writeUInt32LE(2, 0);
    record.writeUInt32LE(length, 4);
    record.writeUInt32LE(doubles, 8);
    record.write(json, HEADER_BYTES);
    // every record is a multiple of eight long: its doubles lie on whole eights
    const numbers = new Float64Array(record.buffer, record.byteOffset + HEADER_BYTES + padded(length), doubles);
    const begin = this.#written + this.#waitingBytes + HEADER_BYTES + padded(length);
    let at = 0;
    parts.forEach(({ positions, triangles, shape, points, edges = [] }, part) => {
      const isKnown = known[part] !== undefined;
      if (shape && !isKnown && triangles.length >= LEAST_SHARED)
        this.#facesAt.set(shape.key, begin + 8 * (at + positions.length));
      const colours = points?.colours ? packed(points.colours) : [];
      for (const list of [positions, isKnown ? [] : triangles, edges, colours]) {
        numbers.set(list, at);
        at += list.length;
      }
    });
    return this.#next(record, layer);
  }

  /** Keeps what the source itself says of an object; objects in their order. @param json in one line */
  tell(id: number, json: string): void {
    this.#told ??= openSync(join(this.folder, TOLD_FILE), 'w');
    this.#toldLines.push(`${id} ${json}\n`);
    this.#toldCharacters += json.length;
    if (this.#toldCharacters >= FLUSH_BYTES) this.#flushTold();
  }

  /** Writes the rest and the index, and forgets all. @returns where everything is, in memory that threads share */
  finish(layerOfNode: readonly number[]): StoredColumns {
    this.#flush();
    closeSync(this.#file);
    if (this.#told !== null) {
      this.#flushTold();
      closeSync(this.#told);
    }
    const offsets = this.#offsets.view();
    const layers = this.#nodes.view();
    for (let i = 0; i < layers.length; i++) layers[i] = layerOfNode[layers[i]!] ?? 0;
    const file = openSync(join(this.folder, 'objects.index'), 'w');
    const piece = new Float64Array(2 * ROWS_AT_ONCE);
    for (let from = 0; from < offsets.length; from += ROWS_AT_ONCE) {
      const rows = Math.min(ROWS_AT_ONCE, offsets.length - from);
      for (let i = 0; i < rows; i++) {
        piece[2 * i] = offsets[from + i]!;
        piece[2 * i + 1] = layers[from + i]!;
      }
      writeSync(file, new Uint8Array(piece.buffer, 0, 16 * rows));
    }
    closeSync(file);
    this.#offsets = new Growable(Float64Array);
    this.#nodes = new Growable(Uint32Array);
    return { offsets, layers };
  }

  /** Room for a record of zeros, one after the other where they are small: a buffer of its own for each takes longer. */
  #room(bytes: number): Buffer {
    if (bytes > FLUSH_BYTES) {
      const own = Buffer.from(new ArrayBuffer(bytes));
      this.#waiting.push(own);
      return own;
    }
    if (this.#blockUsed + bytes > this.#block.length) {
      this.#block = Buffer.from(new ArrayBuffer(FLUSH_BYTES));
      this.#blockUsed = 0;
    }
    const record = this.#block.subarray(this.#blockUsed, (this.#blockUsed += bytes));
    // what follows at once in the same block is written with it
    const last = this.#waiting.at(-1);
    if (last?.buffer === record.buffer && last.byteOffset + last.length === record.byteOffset)
      this.#waiting[this.#waiting.length - 1] = this.#block.subarray(last.byteOffset, this.#blockUsed);
    else this.#waiting.push(record);
    return record;
  }

  #next(record: Buffer, layerNode: number): number {
    this.#offsets.push(this.#written + this.#waitingBytes);
    this.#nodes.push(layerNode);
    this.#waitingBytes += record.length;
    if (this.#waitingBytes >= FLUSH_BYTES) this.#flush();
    return this.#offsets.length - 1;
  }

  #flushTold(): void {
    writeSync(this.#told!, this.#toldLines.join(''));
    this.#toldLines = [];
    this.#toldCharacters = 0;
  }

  #flush(): void {
    writeSync(this.#file, Buffer.concat(this.#waiting));
    this.#written += this.#waitingBytes;
    this.#waiting = [];
    this.#waitingBytes = 0;
  }
}

/** Three bytes as one number. */
const packed = (colours: Uint8Array): Uint32Array =>
  Uint32Array.from(
    { length: colours.length / 3 },
    (_, i) => (colours[3 * i]! << 16) | (colours[3 * i + 1]! << 8) | colours[3 * i + 2]!,
  );
