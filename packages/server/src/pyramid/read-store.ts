import { closeSync, existsSync, openSync, readFileSync, readSync } from 'node:fs';
import { join } from 'node:path';
import type { TextMark } from '@gull-pane/core/drawing/model';
import type { Path } from '@gull-pane/core/drawing/path';
import type { SolidDto } from '@gull-pane/protocol/objects';
import {
  HEADER_BYTES,
  TOLD_FILE,
  numbersIn,
  padded,
  solidOf,
  unpackStyle,
  type KnownFaces,
  type PackedStyle,
  type SolidHead,
} from './object-record.ts';

/** An object as it stands in the store. */
export interface StoredObject extends PackedStyle {
  readonly id: number;
  readonly layer: number;
  readonly path: Path | null;
  readonly text: TextMark | null;
  readonly solid: SolidDto | null;
}

/**
 * Reads a store object by object, in the order of the file; however large, little of it is held at a time.
 * @param isWanted others aren't read; all are if absent
 */
export function* readStore(folder: string, isWanted?: (id: number) => boolean): Generator<StoredObject> {
  const index = readFileSync(join(folder, 'objects.index'));
  const file = openSync(join(folder, 'objects.bin'), 'r');
  try {
    const chunks = new ChunkReader(file);
    const known = new FacesReader(file);
    for (let id = 0; id * 16 + 16 <= index.length; id++) {
      if (isWanted && !isWanted(id)) continue;
      const [offset, layer] = [index.readDoubleLE(16 * id), index.readDoubleLE(16 * id + 8)];
      const header = chunks.bytes(offset, HEADER_BYTES);
      const [kind, length, doubles] = [header.readUInt32LE(0), header.readUInt32LE(4), header.readUInt32LE(8)];
      const style = unpackStyle(header.readUInt32LE(12));
      const body = chunks.bytes(offset + HEADER_BYTES, padded(length) + 8 * doubles);
      const numbers = (): Float64Array => numbersIn(body, padded(length), doubles);
      const told = (): string => body.subarray(0, length).toString();
      const own = { id, layer, ...style, path: null, text: null, solid: null };
      if (kind === 1) yield { ...own, text: JSON.parse(told()) as TextMark };
      else if (kind === 2)
        yield { ...own, solid: solidOf(JSON.parse(told()) as SolidHead, [...numbers()], known.read) };
      else yield { ...own, path: { ops: Uint8Array.from(body.subarray(0, length)), coords: numbers() } };
    }
  } finally {
    closeSync(file);
  }
}

/** Lists of triangles that are kept for the next object. */
const KEPT_LISTS = 64;

/** Reads triangles that several objects have. */
class FacesReader {
  readonly #kept = new Map<number, number[]>();

  constructor(private readonly file: number) {}

  readonly read = ({ at, length }: KnownFaces): readonly number[] => {
    let faces = this.#kept.get(at);
    if (!faces) {
      const bytes = Buffer.alloc(8 * length);
      readSync(this.file, bytes, 0, bytes.length, at);
      faces = [...numbersIn(bytes, 0, length)];
      const [oldest] = this.#kept.keys();
      if (this.#kept.size >= KEPT_LISTS && oldest !== undefined) this.#kept.delete(oldest);
    }
    this.#kept.delete(at);
    this.#kept.set(at, faces);
    return faces;
  };
}

const CHUNK_BYTES = 1 << 20;

/** Reads a file forwards in large pieces. */
class ChunkReader {
  #chunk = Buffer.alloc(0);
  #start = 0;

  constructor(private readonly file: number) {}

  bytes(at: number, length: number): Buffer {
    if (at < this.#start || at + length > this.#start + this.#chunk.length) {
      const chunk = Buffer.alloc(Math.max(length, CHUNK_BYTES));
      this.#chunk = chunk.subarray(0, readSync(this.file, chunk, 0, chunk.length, at));
      this.#start = at;
    }
    return this.#chunk.subarray(at - this.#start, at - this.#start + length);
  }
}

/** What the source itself says of its objects, as JSON by their numbers. */
export function readTold(folder: string): ReadonlyMap<number, string> {
  const file = join(folder, TOLD_FILE);
  if (!existsSync(file)) return new Map();
  const lines = readFileSync(file, 'utf8').split('\n');
  return new Map(
    lines.filter((line) => line !== '').map((line) => [Number.parseInt(line, 10), line.slice(line.indexOf(' ') + 1)]),
  );
}
