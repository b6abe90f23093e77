import type { readSync } from 'node:fs';
import type { TextMark } from '@gull-pane/core/drawing/model';
import type { Path } from '@gull-pane/core/drawing/path';
import { HEADER_BYTES, padded } from './object-record.ts';

/** A file up to this size is held whole while its records are read; of a larger one, so much is read at a time. */
const HELD_BYTES = 1 << 28;
const WINDOW_BYTES = 1 << 12;

/** Reads records one by one, in any order. */
export class RecordReader {
  #window: Buffer;
  #start = 0;
  #length = 0;
  readonly #isHeld: boolean;

  /** @param file open for reading */
  constructor(
    readonly file: number,
    private readonly read: typeof readSync,
    size: number,
  ) {
    this.#isHeld = size <= HELD_BYTES;
    this.#window = Buffer.from(new ArrayBuffer(this.#isHeld ? size : WINDOW_BYTES));
    if (this.#isHeld) this.#fill(0);
  }

  /** @param offset where the record begins, byte @returns may be part of what is held */
  at(offset: number): { readonly text: TextMark | null; readonly path: Path } {
    if (this.#isHeld && this.#window.readUInt32LE(offset) === 0) {
      const [length, doubles] = [this.#window.readUInt32LE(offset + 4), this.#window.readUInt32LE(offset + 8)];
      const { buffer } = this.#window;
      const ops = new Uint8Array(buffer, offset + HEADER_BYTES, length);
      // every record is a multiple of eight long, so that its doubles lie on whole eights of the file
      const coords = new Float64Array(buffer, offset + HEADER_BYTES + padded(length), doubles);
      return { text: null, path: { ops, coords } };
    }
    const header = this.#bytes(offset, HEADER_BYTES);
    const [kind, length, doubles] = [header.readUInt32LE(0), header.readUInt32LE(4), header.readUInt32LE(8)];
    const body = this.#bytes(offset + HEADER_BYTES, padded(length) + 8 * doubles);
    if (kind === 1) {
      const text = JSON.parse(body.subarray(0, length).toString()) as TextMark;
      return { text, path: { ops: [], coords: [] } };
    }
    const ops = body.subarray(0, length);
    const coords = new Float64Array(doubles);
    for (let i = 0; i < doubles; i++) coords[i] = body.readDoubleLE(padded(length) + 8 * i);
    return { text: null, path: { ops: Uint8Array.from(ops), coords } };
  }

  #bytes(at: number, length: number): Buffer {
    if (at < this.#start || at + length > this.#start + this.#length) {
      if (length > this.#window.length) this.#window = Buffer.alloc(length);
      this.#fill(at);
    }
    return this.#window.subarray(at - this.#start, at - this.#start + length);
  }

  #fill(from: number): void {
    this.#start = from;
    this.#length = this.read(this.file, this.#window, 0, this.#window.length, from);
  }
}
