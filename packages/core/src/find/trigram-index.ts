/** Letters and digits; everything else is one sign. */
const SIGNS = 37;
const BUCKETS = SIGNS ** 3;

const signOf = (code: number): number =>
  code >= 97 && code <= 122 ? code - 96 : code >= 48 && code <= 57 ? code - 21 : 0;

/** Numbers of the three-letter pieces of a word, each once. Words are lower case. */
export function trigramsOf(word: string): number[] {
  const found: number[] = [];
  for (let i = 0; i + 3 <= word.length; i++) {
    const gram =
      (signOf(word.charCodeAt(i)) * SIGNS + signOf(word.charCodeAt(i + 1))) * SIGNS + signOf(word.charCodeAt(i + 2));
    if (!found.includes(gram)) found.push(gram);
  }
  return found;
}

/** Which words share three-letter pieces with another (R. C. Angell et al., "Automatic spelling correction using a trigram similarity measure", 1983). */
export class TrigramIndex {
  /** Where each piece's words begin in {@link #words}. */
  readonly #starts = new Uint32Array(BUCKETS + 1);
  readonly #words: Uint32Array;
  readonly #shared: Uint8Array;

  constructor(words: readonly string[]) {
    const counts = new Uint32Array(BUCKETS);
    for (const word of words) for (const gram of trigramsOf(word)) counts[gram]!++;
    for (let gram = 0; gram < BUCKETS; gram++) this.#starts[gram + 1] = this.#starts[gram]! + counts[gram]!;
    this.#words = new Uint32Array(this.#starts[BUCKETS]!);
    const next = this.#starts.slice(0, BUCKETS);
    words.forEach((word, index) => {
      for (const gram of trigramsOf(word)) this.#words[next[gram]!++] = index;
    });
    this.#shared = new Uint8Array(words.length);
  }

  /** Words that share at least so many pieces. */
  sharing(grams: readonly number[], atLeast: number): number[] {
    const shared = this.#shared;
    const met: number[] = [];
    for (const gram of grams) {
      for (let i = this.#starts[gram]!; i < this.#starts[gram + 1]!; i++) {
        const word = this.#words[i]!;
        if (shared[word]!++ === 0) met.push(word);
      }
    }
    const found = met.filter((word) => shared[word]! >= atLeast);
    for (const word of met) shared[word] = 0;
    return found;
  }

  /** Words that may have all of these pieces: only the rarest one's words are gone through. */
  holdingAll(grams: readonly number[]): number[] {
    const size = (gram: number): number => this.#starts[gram + 1]! - this.#starts[gram]!;
    const [rarest, second] = [...grams].sort((a, b) => size(a) - size(b));
    if (rarest === undefined) return [];
    const words = this.#words.subarray(this.#starts[rarest], this.#starts[rarest + 1]);
    if (second === undefined || size(second) > 4 * words.length) return [...words];
    return this.sharing([rarest, second], 2);
  }
}
