import { closeSync, existsSync, openSync, readFileSync, readSync, writeSync } from 'node:fs';
import { open, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { colourToHex } from '@gull-pane/core/drawing/colour';
import type { Style } from '@gull-pane/core/drawing/model';
import { visitPath, type Path } from '@gull-pane/core/drawing/path';
import { Growable } from '@gull-pane/core/geometry/growable';
import type { FillRule, TextMark } from '@gull-pane/core/drawing/model';
import type { SolidObject, SolidPart } from '@gull-pane/core/solid/solid-model';
import type { ObjectDto, SegmentDto, SolidDto } from '@gull-pane/protocol/objects';

/**
 * The exact doubles of every object, in two files: `objects.bin` holds the records one after another, `objects.index`
 * holds two doubles an object, where its record begins and which layer it is on.
 *
 * A record: kind (uint32; 0 path, 1 text, 2 solid), number of steps or of text bytes (uint32), number of doubles (uint32), its style (uint32; see packStyle);
 *  the steps, or the text or solid as JSON, padded to eight bytes; the doubles. Little-endian.
 */
/** What the source says of its objects, where it goes out again as it was: a number, a blank and JSON a line. */
const TOLD_FILE = 'told.txt';
const HEADER_BYTES = 16;
const FLUSH_BYTES = 1 << 20;
const padded = (length: number): number => (length + 7) & ~7;

const MOST_STYLES = 0x7ffe;

/** How an object is drawn, in one number: the style of its lines or letters, that of its area, its rule. 0 for unknown. */
export function packStyle(line: number, fill: number, rule: FillRule): number {
  if (line > MOST_STYLES || fill > MOST_STYLES) return 0;
  return (((rule === 'evenodd' ? 1 : 0) << 30) | ((fill + 1) << 15) | (line + 1)) >>> 0;
}

/** Numbers of styles, −1 for none or unknown. */
interface PackedStyle {
  readonly line: number;
  readonly fill: number;
  readonly fillRule: FillRule;
}

const unpackStyle = (packed: number): PackedStyle => ({
  line: (packed & 0x7fff) - 1,
  fill: ((packed >>> 15) & 0x7fff) - 1,
  fillRule: packed >>> 30 === 1 ? 'evenodd' : 'nonzero',
});

/** Of each object. */
export interface StoredColumns {
  /** Where its record begins in `objects.bin`, byte. */
  readonly offsets: Float64Array;
  readonly layers: Uint32Array;
}

/** Rows of the index that are written at once. */
const ROWS_AT_ONCE = 1 << 14;

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
    const sizes = parts.map(({ material, positions, triangles, edges, points }) => ({
      material,
      positions: positions.length,
      triangles: triangles.length,
      edges: edges?.length ?? 0,
      // a colour is one number: red, green, blue, a byte each
      ...(points ? { colours: points.colours ? positions.length / 3 : 0 } : {}),
    }));
    const json = JSON.stringify({ name, ...(id === undefined ? {} : { id }), facts, parts: sizes });
    const length = Buffer.byteLength(json);
    const doubles = sizes.reduce(
      (sum, { positions, triangles, edges, colours = 0 }) => sum + positions + triangles + edges + colours,
      0,
    );
    const record = this.#room(HEADER_BYTES + padded(length) + 8 * doubles);
    record.writeUInt32LE(2, 0);
    record.writeUInt32LE(length, 4);
    record.writeUInt32LE(doubles, 8);
    record.write(json, HEADER_BYTES);
    // every record is a multiple of eight long: its doubles lie on whole eights
    const numbers = new Float64Array(record.buffer, record.byteOffset + HEADER_BYTES + padded(length), doubles);
    let at = 0;
    for (const { positions, triangles, points, edges = [] } of parts)
      for (const list of [positions, triangles, edges, points?.colours ? packed(points.colours) : []]) {
        numbers.set(list, at);
        at += list.length;
      }
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

/** @returns null if the drawing has no such object */
export async function readObject(folder: string, id: number): Promise<ObjectDto | null> {
  const index = await open(join(folder, 'objects.index'));
  try {
    const entry = Buffer.alloc(16);
    if ((await index.read(entry, 0, 16, 16 * id)).bytesRead < 16) return null;
    const [offset, layerId] = [entry.readDoubleLE(0), entry.readDoubleLE(8)];
    const file = await open(join(folder, 'objects.bin'));
    try {
      const header = Buffer.alloc(HEADER_BYTES);
      await file.read(header, 0, HEADER_BYTES, offset);
      const [kind, length, doubles] = [header.readUInt32LE(0), header.readUInt32LE(4), header.readUInt32LE(8)];
      const first = Buffer.alloc(padded(length));
      await file.read(first, 0, first.length, offset + HEADER_BYTES);
      const head = kind === 2 ? (JSON.parse(first.subarray(0, length).toString()) as SolidHead) : null;
      if (head && doubles > MOST_TOLD && head.parts.every(({ colours }) => colours !== undefined))
        return { id, layerId, kind: 'solid', solid: countedOnly(head) };
      const body = Buffer.alloc(padded(length) + 8 * doubles);
      await file.read(body, 0, body.length, offset + HEADER_BYTES);
      if (kind === 1) {
        const { text, x, y, size, angleRad, anchor } = JSON.parse(body.subarray(0, length).toString()) as TextMark;
        return { id, layerId, kind: 'text', text: { text, x, y, size, angleRad, anchor } };
      }
      const coords = Array.from({ length: doubles }, (_, i) => body.readDoubleLE(padded(length) + 8 * i));
      if (head) return { id, layerId, kind: 'solid', solid: solidOf(head, coords) };
      const style = await styleOf(folder, unpackStyle(header.readUInt32LE(12)));
      const segments = segmentsOf({ ops: body.subarray(0, length), coords });
      return { id, layerId, kind: 'path', ...(style ? { style } : {}), segments };
    } finally {
      await file.close();
    }
  } finally {
    await index.close();
  }
}

/** Drawings that came in before styles were kept have none. */
async function styleOf(folder: string, { line, fill }: PackedStyle): Promise<ObjectDto['style']> {
  const told = await readFile(join(folder, 'styles.json'), 'utf8').catch(() => '[]');
  const style = (JSON.parse(told) as Style[])[line >= 0 ? line : fill];
  return style && { colour: colourToHex(style.colour), width: style.width, dashes: style.dashes };
}

/** What of a solid stands before its numbers: how many of them each part has. */
interface SolidHead {
  readonly name: string;
  readonly id?: string;
  readonly facts: readonly string[];
  readonly parts: readonly {
    readonly material: number;
    readonly positions: number;
    readonly triangles: number;
    readonly edges: number;
    /** Of sets of points. */
    readonly colours?: number;
  }[];
}

/** Three bytes as one number. */
const packed = (colours: Uint8Array): Uint32Array =>
  Uint32Array.from(
    { length: colours.length / 3 },
    (_, i) => (colours[3 * i]! << 16) | (colours[3 * i + 1]! << 8) | colours[3 * i + 2]!,
  );

function solidOf({ name, id, facts, parts }: SolidHead, numbers: readonly number[]): SolidDto {
  let at = 0;
  const take = (count: number): number[] => numbers.slice(at, (at += count));
  return {
    name,
    ...(id === undefined ? {} : { id }),
    facts,
    parts: parts.map(({ material, positions, triangles, edges, colours }) => ({
      material,
      positions: take(positions),
      triangles: take(triangles),
      edges: take(edges),
      ...(colours === undefined ? {} : { points: { count: positions / 3, colours: take(colours) } }),
    })),
  };
}

/** A set of points of more numbers isn't told one by one: its tiles hold the same doubles. */
const MOST_TOLD = 300_000;

const countedOnly = ({ parts, ...head }: SolidHead): SolidDto => ({
  ...head,
  parts: parts.map(({ material, positions }) => ({
    material,
    positions: [],
    triangles: [],
    edges: [],
    points: { count: positions / 3, colours: [] },
  })),
});

function segmentsOf(path: Path): SegmentDto[] {
  const segments: SegmentDto[] = [];
  visitPath(path, {
    line: (x0, y0, x, y) => segments.push({ kind: 'line', from: [x0, y0], to: [x, y] }),
    quadratic: (x0, y0, cx, cy, x, y) =>
      segments.push({ kind: 'quadratic', from: [x0, y0], control: [cx, cy], to: [x, y] }),
    cubic: (x0, y0, ax, ay, bx, by, x, y) =>
      segments.push({
        kind: 'cubic',
        from: [x0, y0],
        controls: [
          [ax, ay],
          [bx, by],
        ],
        to: [x, y],
      }),
    arc: (x0, y0, arc, x, y) =>
      segments.push({
        kind: 'arc',
        from: [x0, y0],
        to: [x, y],
        centre: [arc.cx, arc.cy],
        halfAxes: [
          [arc.ux, arc.uy],
          [arc.vx, arc.vy],
        ],
        startRad: arc.startRad,
        sweepRad: arc.sweepRad,
      }),
  });
  return segments;
}

/** An object as it stands in the store. */
export interface StoredObject extends PackedStyle {
  readonly id: number;
  readonly layer: number;
  readonly path: Path | null;
  readonly text: TextMark | null;
  readonly solid: SolidDto | null;
}

/** Reads a whole store object by object, in the order of the file; however large, little of it is held at a time. */
export function* readStore(folder: string): Generator<StoredObject> {
  const index = readFileSync(join(folder, 'objects.index'));
  const file = openSync(join(folder, 'objects.bin'), 'r');
  try {
    const chunks = new ChunkReader(file);
    for (let id = 0; id * 16 + 16 <= index.length; id++) {
      const [offset, layer] = [index.readDoubleLE(16 * id), index.readDoubleLE(16 * id + 8)];
      const header = chunks.bytes(offset, HEADER_BYTES);
      const [kind, length, doubles] = [header.readUInt32LE(0), header.readUInt32LE(4), header.readUInt32LE(8)];
      const style = unpackStyle(header.readUInt32LE(12));
      const body = chunks.bytes(offset + HEADER_BYTES, padded(length) + 8 * doubles);
      const numbers = (): Float64Array => {
        const coords = new Float64Array(doubles);
        for (let i = 0; i < doubles; i++) coords[i] = body.readDoubleLE(padded(length) + 8 * i);
        return coords;
      };
      const told = (): string => body.subarray(0, length).toString();
      const own = { id, layer, ...style, path: null, text: null, solid: null };
      if (kind === 1) yield { ...own, text: JSON.parse(told()) as TextMark };
      else if (kind === 2) yield { ...own, solid: solidOf(JSON.parse(told()) as SolidHead, [...numbers()]) };
      else yield { ...own, path: { ops: Uint8Array.from(body.subarray(0, length)), coords: numbers() } };
    }
  } finally {
    closeSync(file);
  }
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
