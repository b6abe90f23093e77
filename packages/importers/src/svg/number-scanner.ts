/** Any whole number of so many digits is a double. */
const EXACT_DIGITS = 15;
const POWERS_OF_TEN = Array.from({ length: EXACT_DIGITS + 1 }, (_, power) => 10 ** power);

/** Walks over the number lists of SVG attributes: path data, points, transforms, viewBox. */
export class NumberScanner {
  at = 0;

  constructor(readonly text: string) {}

  get isAtEnd(): boolean {
    return this.at >= this.text.length;
  }

  /** Skips white space and commas as SVG 2's `comma-wsp` does. */
  skipSeparators(): void {
    for (; this.at < this.text.length; this.at++) {
      const c = this.text.charCodeAt(this.at);
      if (c !== 0x20 && c !== 0x2c && (c < 0x09 || c > 0x0d)) return;
    }
  }

  /**
   * Digits are put together to a whole number that a double holds exactly, and divided by a power of ten that it holds
   * exactly, too: one rounding, as the standard asks (W. D. Clinger, "How to read floating point numbers accurately",
   * PLDI 1990, section 3). What has more digits or an exponent is left to the language.
   * @returns the number that stands here, or NaN (and stays) if none does. `1.5.5` is two numbers, `1-2` too.
   */
  number(): number {
    this.skipSeparators();
    const { text } = this;
    const start = this.at;
    let at = start;
    const sign = text.charCodeAt(at);
    if (sign === 0x2b || sign === 0x2d) at++;
    const wholeFrom = at;
    let whole = 0;
    let code = text.charCodeAt(at);
    while (isDigit(code)) {
      whole = 10 * whole + (code - 0x30);
      code = text.charCodeAt(++at);
    }
    let digits = at - wholeFrom;
    let decimals = 0;
    if (code === 0x2e) {
      const fractionFrom = ++at;
      code = text.charCodeAt(at);
      while (isDigit(code)) {
        whole = 10 * whole + (code - 0x30);
        code = text.charCodeAt(++at);
      }
      decimals = at - fractionFrom;
      digits += decimals;
    }
    if (digits === 0) return NaN;
    if (code !== 0x65 && code !== 0x45 && digits <= EXACT_DIGITS) {
      this.at = at;
      const value = whole / POWERS_OF_TEN[decimals]!;
      return sign === 0x2d ? -value : value;
    }
    const e = text.charCodeAt(at);
    if (e === 0x65 || e === 0x45) {
      let end = at + 1;
      const expSign = text.charCodeAt(end);
      if (expSign === 0x2b || expSign === 0x2d) end++;
      if (isDigit(text.charCodeAt(end))) {
        while (isDigit(text.charCodeAt(end))) end++;
        at = end;
      }
    }
    this.at = at;
    return Number(text.slice(start, at));
  }

  /** A flag of an arc: one digit 0 or 1, which may touch what follows. NaN (and stays) if none stands here. */
  flag(): number {
    this.skipSeparators();
    const c = this.text.charCodeAt(this.at);
    if (c !== 0x30 && c !== 0x31) return NaN;
    this.at++;
    return c - 0x30;
  }

  /** All numbers up to the first thing that isn't one. */
  all(): number[] {
    const numbers: number[] = [];
    for (let value = this.number(); !Number.isNaN(value); value = this.number()) numbers.push(value);
    return numbers;
  }
}

const isDigit = (code: number): boolean => code >= 0x30 && code <= 0x39;
