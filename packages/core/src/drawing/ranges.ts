/**
 * Sets of object numbers as text. Short sets are ranges: `3-17,20`. Long ones, such as every second object, are a
 * bitmap: one bit per object, least significant bit first, run-length encoded, in base 64 after `b:`. Each run starts
 * with a byte n. If n < 128, n + 1 literal bytes follow; otherwise the next byte is repeated n − 126 times.
 */

/** Longer lists of ranges are written as bits, characters. */
const LONGEST_RANGES = 4000;
const BITS = 'b:';
const MOST_SINGLE = 128;
const MOST_REPEATED = 129;

/** @param isIn asked for 0 … count − 1 @returns the numbers that are in */
export function rangesOf(count: number, isIn: (number: number) => boolean): string {
  const parts: string[] = [];
  let length = 0;
  for (let from = 0; from < count; from++) {
    if (!isIn(from)) continue;
    let to = from;
    while (to + 1 < count && isIn(to + 1)) to++;
    const part = from === to ? String(from) : `${from}-${to}`;
    parts.push(part);
    length += part.length + 1;
    if (length > LONGEST_RANGES) return BITS + toBase64(inRuns(bitsOf(count, isIn)));
    from = to;
  }
  return parts.join(',');
}

/** @param count numbers from here on are left out @throws RangeError if the text holds anything but such a set */
export function numbersOfRanges(text: string, count: number): number[] {
  if (text === '') return [];
  const numbers: number[] = [];
  if (text.startsWith(BITS)) {
    ofRuns(fromBase64(text.slice(BITS.length)), Math.ceil(count / 8), (byte, place) => {
      for (let bit = 0; bit < 8; bit++)
        if ((byte >> bit) % 2 === 1 && 8 * place + bit < count) numbers.push(8 * place + bit);
    });
    return numbers;
  }
  for (const part of text.split(',')) {
    const match = /^(\d+)(?:-(\d+))?$/.exec(part);
    if (!match) throw new RangeError(`numbersOfRanges: “${part}” is no range`);
    const from = Number(match[1]);
    const to = Math.min(Number(match[2] ?? match[1]), count - 1);
    for (let number = from; number <= to; number++) numbers.push(number);
  }
  return numbers;
}

function bitsOf(count: number, isIn: (number: number) => boolean): Uint8Array {
  const bytes = new Uint8Array(Math.ceil(count / 8));
  for (let number = 0; number < count; number++) if (isIn(number)) bytes[number >> 3]! |= 1 << (number & 7);
  return bytes;
}

function inRuns(bytes: Uint8Array): number[] {
  const runs: number[] = [];
  let singles: number[] = [];
  const endSingles = (): void => {
    if (singles.length > 0) runs.push(singles.length - 1, ...singles);
    singles = [];
  };
  for (let at = 0; at < bytes.length;) {
    let end = at + 1;
    while (end < bytes.length && bytes[end] === bytes[at] && end - at < MOST_REPEATED) end++;
    if (end - at > 1) {
      endSingles();
      runs.push(end - at + 126, bytes[at]!);
    } else {
      singles.push(bytes[at]!);
      if (singles.length === MOST_SINGLE) endSingles();
    }
    at = end;
  }
  endSingles();
  return runs;
}

/** @param most bytes from here on are left out */
function ofRuns(runs: Uint8Array, most: number, take: (byte: number, place: number) => void): void {
  let place = 0;
  for (let at = 0; at < runs.length && place < most;) {
    const head = runs[at]!;
    const length = head < MOST_SINGLE ? head + 1 : head - 126;
    const isWhole = at + (head < MOST_SINGLE ? length : 1) < runs.length;
    if (!isWhole) throw new RangeError('numbersOfRanges: the last run is cut off');
    for (let k = 0; k < length && place < most; k++) take(runs[head < MOST_SINGLE ? at + 1 + k : at + 1]!, place++);
    at += head < MOST_SINGLE ? length + 1 : 2;
  }
}

const SEXTETS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Base 64 (RFC 4648, 4). */
function toBase64(bytes: readonly number[]): string {
  const letters: string[] = [];
  for (let at = 0; at < bytes.length; at += 3) {
    const group = (bytes[at]! << 16) | ((bytes[at + 1] ?? 0) << 8) | (bytes[at + 2] ?? 0);
    const there = Math.min(bytes.length - at, 3);
    for (let k = 0; k < 4; k++) letters.push(k <= there ? SEXTETS[(group >> (18 - 6 * k)) & 63]! : '=');
  }
  return letters.join('');
}

function fromBase64(text: string): Uint8Array {
  const plain = text.replace(/=+$/, '');
  const bytes = new Uint8Array(Math.floor((plain.length * 3) / 4));
  for (let at = 0; at < plain.length; at++) {
    const sextet = SEXTETS.indexOf(plain[at]!);
    if (sextet < 0) throw new RangeError('numbersOfRanges: the bits aren’t in base 64');
    // a letter's six bits lie in one byte or across two
    const [byte, shift] = [(at * 6) >> 3, 2 - ((at * 6) & 7)];
    if (shift >= 0) bytes[byte]! |= sextet << shift;
    else {
      bytes[byte]! |= sextet >> -shift;
      if (byte + 1 < bytes.length) bytes[byte + 1]! |= (sextet << (8 + shift)) & 255;
    }
  }
  return bytes;
}
