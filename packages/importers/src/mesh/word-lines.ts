import { Growable } from '@gull-pane/core/geometry/growable';
import { numberIn } from '../points/number-bytes.ts';

const [TAB, LINE_END, RETURN, BLANK, HASH, BACKSLASH] = [9, 10, 13, 32, 35, 92];
const [PLUS, MINUS, ZERO, NINE] = [43, 45, 48, 57];
const text = new TextDecoder();

/**
 * Walks over the lines of a file of words, in its bytes: a text of its own for each word of a million lines takes longer than
 * all the rest. Empty lines and comments are left out; a line that ends with a backslash goes on in the next.
 */
export class WordLines {
  #bytes: Uint8Array;
  /** The line: its first byte and the one after its last, in {@link #bytes}. */
  #from = 0;
  #to = 0;
  /** The word: the same. */
  #wordFrom = 0;
  #wordTo = 0;
  #next = 0;

  /** @param file the whole file */
  constructor(private readonly file: Uint8Array) {
    this.#bytes = file;
  }

  /** Goes to the next line. @returns false at the end of the file */
  nextLine(): boolean {
    while (this.#next < this.file.length) {
      this.#bytes = this.file;
      this.#trimmed();
      if (this.#isGoingOn()) this.#join();
      this.#wordTo = this.#from;
      if (this.#from < this.#to && this.#bytes[this.#from] !== HASH) return true;
    }
    return false;
  }

  /** Goes to the next word of the line. @returns false at its end */
  nextWord(): boolean {
    let at = this.#wordTo;
    while (at < this.#to && isBlank(this.#bytes[at]!)) at++;
    this.#wordFrom = at;
    while (at < this.#to && !isBlank(this.#bytes[at]!)) at++;
    this.#wordTo = at;
    return this.#wordFrom < at;
  }

  /** The word as a text. */
  word(): string {
    const [from, to, bytes] = [this.#wordFrom, this.#wordTo, this.#bytes];
    if (to - from === 1) return String.fromCharCode(bytes[from]!);
    return text.decode(bytes.subarray(from, to));
  }

  /** What stands behind the word, without blanks around it. */
  rest(): string {
    return text.decode(this.#bytes.subarray(this.#wordTo, this.#to)).trim();
  }

  /** The word as a number; not a number if it is none. */
  number(): number {
    return numberIn(this.#bytes, this.#wordFrom, this.#wordTo);
  }

  /** The whole number that the word begins with; not a number if it begins with none. */
  leadingInteger(): number {
    const bytes = this.#bytes;
    const sign = bytes[this.#wordFrom]!;
    const first = sign === MINUS || sign === PLUS ? this.#wordFrom + 1 : this.#wordFrom;
    let value = 0;
    let at = first;
    for (; at < this.#wordTo; at++) {
      const byte = bytes[at]!;
      if (byte < ZERO || byte > NINE) break;
      value = 10 * value + byte - ZERO;
    }
    if (at === first) return Number.NaN;
    return sign === MINUS ? -value : value;
  }

  /** Takes the next line of the file, without blanks around it. */
  #trimmed(): void {
    let end = this.file.indexOf(LINE_END, this.#next);
    if (end < 0) end = this.file.length;
    let from = this.#next;
    this.#next = end + 1;
    while (from < end && isBlank(this.file[from]!)) from++;
    while (end > from && isBlank(this.file[end - 1]!)) end--;
    this.#from = from;
    this.#to = end;
  }

  #isGoingOn(): boolean {
    return this.#to > this.#from && this.file[this.#to - 1] === BACKSLASH;
  }

  /** Puts a line and those that it goes on in together. */
  #join(): void {
    const joined = new Growable(Uint8Array);
    for (let isLast = false; !isLast;) {
      isLast = !this.#isGoingOn() || this.#next >= this.file.length;
      joined.append(this.file.subarray(this.#from, this.#isGoingOn() ? this.#to - 1 : this.#to));
      joined.push(BLANK);
      if (!isLast) this.#trimmed();
    }
    this.#bytes = joined.view();
    this.#from = 0;
    this.#to = joined.length;
  }
}

const isBlank = (byte: number): boolean => byte === BLANK || (byte >= TAB && byte <= RETURN);
