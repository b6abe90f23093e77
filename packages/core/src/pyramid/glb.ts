/** The binary container of glTF 2.0 (section 4, "GLB File Format Specification"): one JSON chunk, one binary chunk. */

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;

/** JSON in ASCII alone, so that bytes and characters are the same thing. */
function asciiJson(value: unknown): string {
  return JSON.stringify(value).replace(
    /[\u007f-\uffff]/g,
    (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}

/** Packs a glTF document and its buffer; both chunks are padded to four bytes as the standard asks. */
export function packGlb(json: unknown, bin: Uint8Array): Uint8Array<ArrayBuffer> {
  const text = asciiJson(json);
  const jsonLength = (text.length + 3) & ~3;
  const binLength = (bin.length + 3) & ~3;
  const bytes = new Uint8Array(12 + 8 + jsonLength + 8 + binLength);
  const view = new DataView(bytes.buffer);
  [MAGIC, 2, bytes.length, jsonLength, JSON_CHUNK].forEach((word, index) => view.setUint32(4 * index, word, true));
  bytes.fill(0x20, 20, 20 + jsonLength);
  for (let i = 0; i < text.length; i++) bytes[20 + i] = text.charCodeAt(i);
  view.setUint32(20 + jsonLength, binLength, true);
  view.setUint32(24 + jsonLength, BIN_CHUNK, true);
  bytes.set(bin, 28 + jsonLength);
  return bytes;
}

/**
 * Takes a GLB apart; the buffer is a view into the bytes.
 * @throws RangeError if it isn't a GLB of version 2 or its lengths don't agree
 */
export function unpackGlb(bytes: Uint8Array): { json: unknown; bin: Uint8Array } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const word = (at: number): number => (at + 4 <= bytes.length ? view.getUint32(at, true) : -1);
  const expect = (what: string, actual: number, expected: number): void => {
    if (actual !== expected) throw new RangeError(`unpackGlb: ${what} is ${actual}, expected ${expected}`);
  };
  expect('magic', word(0), MAGIC);
  expect('version', word(4), 2);
  expect('total length', word(8), bytes.length);
  expect('first chunk type', word(16), JSON_CHUNK);
  const jsonLength = word(12);
  expect('second chunk type', word(24 + jsonLength), BIN_CHUNK);
  const binStart = 28 + jsonLength;
  const binLength = word(20 + jsonLength);
  if (binStart + binLength > bytes.length) throw new RangeError('unpackGlb: the binary chunk is cut off');
  return {
    json: JSON.parse(asciiText(bytes.subarray(20, 20 + jsonLength))),
    bin: bytes.subarray(binStart, binStart + binLength),
  };
}

function asciiText(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let at = 0; at < bytes.length; at += 8192) {
    parts.push(String.fromCharCode(...bytes.subarray(at, at + 8192)));
  }
  return parts.join('');
}
