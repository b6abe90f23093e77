/** Powers of ten that doubles hold exactly. */
const TENS = Array.from({ length: 23 }, (_, k) => Number(`1e${k}`));
/** Integers below it are exact. */
const EXACT = 2 ** 53;
const [ZERO, NINE, MINUS, PLUS, POINT, COMMA] = [48, 57, 45, 43, 46, 44];
const latin1 = new TextDecoder('latin1');

/**
 * The number that stands in a stretch of bytes, to the last bit: of up to 15 digits it is a quotient of two exact doubles
 * (W. D. Clinger, "How to read floating point numbers accurately", 1990); of others the runtime reads it.
 * @param isComma whether a comma is the decimal point
 * @returns not a number if there is none
 */
export function numberIn(bytes: Uint8Array, from: number, to: number, isComma = false): number {
  let at = from;
  const isNegative = bytes[at] === MINUS;
  if (isNegative || bytes[at] === PLUS) at++;
  let [value, digits, decimals] = [0, 0, -1];
  for (; at < to; at++) {
    const byte = bytes[at]!;
    if (byte >= ZERO && byte <= NINE) {
      value = 10 * value + byte - ZERO;
      digits++;
      if (decimals >= 0) decimals++;
    } else if (decimals < 0 && (byte === POINT || (isComma && byte === COMMA))) decimals = 0;
    else return inWords(bytes, from, to, isComma);
  }
  if (digits === 0) return Number.NaN;
  if (value >= EXACT || decimals > 22) return inWords(bytes, from, to, isComma);
  const size = decimals > 0 ? value / TENS[decimals]! : value;
  return isNegative ? -size : size;
}

function inWords(bytes: Uint8Array, from: number, to: number, isComma: boolean): number {
  const text = latin1.decode(bytes.subarray(from, to));
  // an empty text and a hexadecimal one are no numbers here
  return /^[+-]?(\d+[.,]?\d*|[.,]\d+)(e[+-]?\d+)?$/i.test(text)
    ? Number(isComma ? text.replace(',', '.') : text)
    : Number.NaN;
}
