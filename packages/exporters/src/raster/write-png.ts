import { crc32, deflateRawSync, constants } from 'node:zlib';
import type { PictureRows } from './sheet-rows.ts';

/** Largest prime below 2^16, and how many sums fit into 32 bits before a remainder is taken (RFC 1950, 8.2). */
const [ADLER_BASE, ADLER_RUN] = [65521, 5552] as const;
const METRE_IN = 39.37007874;

/**
 * A picture as PNG (ISO/IEC 15948), band by band: little of it is held at a time.
 * @param dpi as it is printed
 * @returns the pieces of the file, in order
 */
export function* writePng({ width, height, bands }: PictureRows, dpi: number): Generator<Uint8Array> {
  yield Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8); // eight bits a channel, red, green, blue
  yield chunk('IHDR', head);
  const density = Buffer.alloc(9);
  for (const at of [0, 4]) density.writeUInt32BE(Math.round(dpi * METRE_IN), at);
  density[8] = 1;
  yield chunk('pHYs', density);
  yield chunk('IDAT', Uint8Array.of(0x78, 0x9c));
  const sum = { a: 1, b: 0 };
  let row = 0;
  for (const band of bands()) {
    const filtered = filteredRows(band, width);
    row += band.length / 3 / width;
    addTo(sum, filtered);
    // each band ends at a whole byte, so that the next may follow it
    const finishFlush = row === height ? constants.Z_FINISH : constants.Z_SYNC_FLUSH;
    yield chunk('IDAT', deflateRawSync(filtered, { level: 6, finishFlush }));
  }
  const check = Buffer.alloc(4);
  check.writeUInt32BE(((sum.b << 16) | sum.a) >>> 0);
  yield chunk('IDAT', check);
  yield chunk('IEND', new Uint8Array(0));
}

/** Rows as differences to the row above (filter 2): drawings are mostly the same there; the first of a band as it is. */
function filteredRows(band: Uint8Array, width: number): Uint8Array {
  const stride = 3 * width;
  const height = band.length / stride;
  const rows = new Uint8Array(height * (stride + 1));
  for (let y = 0; y < height; y++) {
    const to = y * (stride + 1);
    const from = y * stride;
    if (y === 0) rows.set(band.subarray(0, stride), to + 1);
    else {
      rows[to] = 2;
      for (let x = 0; x < stride; x++) rows[to + 1 + x] = band[from + x]! - band[from + x - stride]!;
    }
  }
  return rows;
}

/** Goes on with the checksum of RFC 1950. */
function addTo(sum: { a: number; b: number }, bytes: Uint8Array): void {
  let { a, b } = sum;
  for (let at = 0; at < bytes.length;) {
    const end = Math.min(at + ADLER_RUN, bytes.length);
    for (; at < end; at++) {
      a += bytes[at]!;
      b += a;
    }
    a %= ADLER_BASE;
    b %= ADLER_BASE;
  }
  Object.assign(sum, { a, b });
}

function chunk(type: string, data: Uint8Array): Uint8Array {
  const bytes = Buffer.alloc(12 + data.length);
  bytes.writeUInt32BE(data.length, 0);
  bytes.write(type, 4, 'latin1');
  bytes.set(data, 8);
  bytes.writeUInt32BE(crc32(bytes.subarray(4, 8 + data.length)), 8 + data.length);
  return bytes;
}
