import { deflateSync } from 'node:zlib';
import type { PictureRows } from './sheet-rows.ts';

/** Types of TIFF 6.0, and their lengths in bytes. */
const [SHORT, LONG, RATIONAL] = [3, 4, 5] as const;
const LENGTHS: Readonly<Record<number, number>> = { [SHORT]: 2, [LONG]: 4, [RATIONAL]: 8 };
const HEADER_BYTES = 8;

/** A field of a directory: tag, type, values. */
type Field = readonly [tag: number, type: typeof SHORT | typeof LONG | typeof RATIONAL, values: readonly number[]];

/**
 * Pictures as the pages of one TIFF 6.0 file, strips packed by deflate (Technical Note 2, 2002). A page is held packed until
 * it is whole.
 * @param dpi as they are printed
 * @returns the pieces of the file, in order
 */
export function* writeTiff(pages: Iterable<PictureRows>, count: number, dpi: number): Generator<Uint8Array> {
  const header = Buffer.from([0x49, 0x49, 42, 0, HEADER_BYTES, 0, 0, 0]); // little-endian, the first directory follows
  yield header;
  let at = HEADER_BYTES;
  let page = 0;
  for (const { width, height, bands } of pages) {
    const strips: Uint8Array[] = [];
    let rows = 0;
    for (const band of bands()) {
      rows = Math.max(rows, band.length / 3 / width);
      strips.push(deflateSync(differences(band, width), { level: 6 }));
    }
    const fieldsFrom = (begin: number): readonly Field[] => {
      let next = begin;
      const offsets = strips.map(({ length }) => (next += length) - length);
      return [
        [256, LONG, [width]],
        [257, LONG, [height]],
        [258, SHORT, [8, 8, 8]],
        [259, SHORT, [8]], // packed by deflate
        [262, SHORT, [2]], // red, green, blue
        [273, LONG, offsets],
        [277, SHORT, [3]],
        [278, LONG, [rows]],
        [279, LONG, strips.map(({ length }) => length)],
        [282, RATIONAL, [Math.round(dpi * 100), 100]],
        [283, RATIONAL, [Math.round(dpi * 100), 100]],
        [296, SHORT, [2]], // per inch
        [317, SHORT, [2]], // differences to the px before
        [297, SHORT, [page, count]],
      ];
    };
    const sorted = (begin: number): Field[] => [...fieldsFrom(begin)].sort(([a], [b]) => a - b);
    const { length } = directory(sorted(0), at, 0);
    const packed = strips.reduce((sum, strip) => sum + strip.length, 0);
    const end = at + length + packed + (packed & 1);
    if (end > 0xffff_ffff) throw new RangeError('writeTiff: more than TIFF can hold (4 GB)');
    page++;
    yield directory(sorted(at + length), at, page < count ? end : 0);
    yield* strips;
    if (packed & 1) yield Uint8Array.of(0);
    at = end;
  }
}

/** A directory with what its fields point to, which lies behind it. @param at where it stands in the file */
function directory(fields: readonly Field[], at: number, next: number): Buffer {
  const head = 2 + 12 * fields.length + 4;
  const sizeOf = ([, type, values]: Field): number =>
    LENGTHS[type]! * (type === RATIONAL ? values.length / 2 : values.length);
  const outside = fields.map((field) => (sizeOf(field) > 4 ? sizeOf(field) + (sizeOf(field) & 1) : 0));
  const whole = head + outside.reduce((sum, size) => sum + size, 0);
  const bytes = Buffer.alloc(whole + (whole & 1));
  bytes.writeUInt16LE(fields.length, 0);
  let free = head;
  fields.forEach((field, k) => {
    const [tag, type, values] = field;
    const entry = 2 + 12 * k;
    bytes.writeUInt16LE(tag, entry);
    bytes.writeUInt16LE(type, entry + 2);
    bytes.writeUInt32LE(type === RATIONAL ? values.length / 2 : values.length, entry + 4);
    let place = entry + 8;
    if (outside[k]! > 0) {
      bytes.writeUInt32LE(at + free, place);
      place = free;
      free += outside[k]!;
    }
    for (const value of values) {
      if (type === SHORT) place = bytes.writeUInt16LE(value, place);
      else place = bytes.writeUInt32LE(value, place);
    }
  });
  bytes.writeUInt32LE(next, head - 4);
  return bytes;
}

/** Each px as the difference to the one before it (TIFF 6.0, 14). */
function differences(band: Uint8Array, width: number): Uint8Array {
  const stride = 3 * width;
  const out = new Uint8Array(band.length);
  for (let row = 0; row < band.length; row += stride) {
    out.set(band.subarray(row, row + 3), row);
    for (let x = row + 3; x < row + stride; x++) out[x] = band[x]! - band[x - 3]!;
  }
  return out;
}
