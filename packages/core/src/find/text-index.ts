import { editDistance } from './edit-distance.ts';
import { TrigramIndex, trigramsOf } from './trigram-index.ts';

/** Texts of this rank and more don't have what was looked for, but something like it. */
export const SIMILAR_RANK = 4;

/** A text that was found; the same words at several places are one. */
export interface TextHit {
  readonly content: string;
  /** Places in the list of texts that the index was made of. */
  readonly places: readonly number[];
  /** 0 exactly so, 1 begins so, 2 a word begins so, 3 has it somewhere; from {@link SIMILAR_RANK} on, with so many slips more. */
  readonly rank: number;
}

/** Lower case, without accents: how texts and queries are compared. */
export const folded = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .trim();

/** Zeros that only fill up a number, as in KS-VA-0405; those within a grouped number, as in 412 050, don't. */
const filling = /(?<!\p{N}[^\p{L}\p{N}]*)0+(?=\p{N})/gu;

/** Letters and digits alone, numbers without leading zeros: people leave out and mix up the rest. */
const bare = (text: string): string => text.replace(filling, '').replace(/[^\p{L}\p{N}]+/gu, '');

/** So many slips are forgiven in a word of some length. */
const slipsFor = (length: number): number => (length <= 2 ? 0 : length <= 5 ? 1 : 2);

/**
 * Finds texts by a part of them and, where that finds too little, by their words with slips of the hand. Distinct texts are
 * indexed by three-letter pieces once, without what stands between letters and digits; words likewise.
 */
export class TextIndex {
  readonly #contents: string[] = [];
  readonly #folded: string[] = [];
  readonly #bare: string[] = [];
  readonly #places: number[][] = [];
  readonly #wordsOf: number[][] = [];
  readonly #words: string[] = [];
  /** Distinct texts that have a word. */
  readonly #textsOf: number[][] = [];
  readonly #byText: TrigramIndex;
  readonly #byWord: TrigramIndex;

  constructor(texts: readonly string[]) {
    const known = new Map<string, number>();
    const words = new Map<string, number>();
    texts.forEach((content, place) => {
      const distinct = known.get(content);
      if (distinct !== undefined) {
        this.#places[distinct]!.push(place);
        return;
      }
      const index = this.#contents.length;
      known.set(content, index);
      const plain = folded(content);
      this.#contents.push(content);
      this.#folded.push(plain);
      this.#bare.push(bare(plain));
      this.#places.push([place]);
      const own: number[] = [];
      for (const part of plain.split(' ')) {
        const word = bare(part);
        if (word === '') continue;
        let number = words.get(word);
        if (number === undefined) {
          words.set(word, (number = this.#words.length));
          this.#words.push(word);
          this.#textsOf.push([]);
        }
        own.push(number);
        const of = this.#textsOf[number]!;
        if (of.at(-1) !== index) of.push(index);
      }
      this.#wordsOf.push(own);
    });
    this.#byText = new TrigramIndex(this.#bare);
    this.#byWord = new TrigramIndex(this.#words);
  }

  /** @param most how many are wanted; the best come first */
  find(query: string, most: number): TextHit[] {
    const plain = folded(query);
    const wanted = bare(plain);
    if (wanted === '') return [];
    const ranks = new Map<number, number>();
    const candidates = wanted.length < 3 ? this.#folded.keys() : this.#byText.holdingAll(trigramsOf(wanted));
    for (const index of candidates) {
      const rank = this.#rankOf(index, plain, wanted);
      if (rank < SIMILAR_RANK) ranks.set(index, rank);
    }
    // what was typed begins something: it is no slip
    const isMeant = [...ranks.values()].some((rank) => rank <= 1);
    if (ranks.size < most && !isMeant) this.#addWithSlips(plain, ranks);
    const hits = [...ranks].sort(
      ([a, rankA], [b, rankB]) =>
        rankA - rankB ||
        this.#bare[a]!.length - this.#bare[b]!.length ||
        (this.#folded[a]! < this.#folded[b]! ? -1 : 1),
    );
    return hits
      .slice(0, most)
      .map(([index, rank]) => ({ content: this.#contents[index]!, places: this.#places[index]!, rank }));
  }

  #rankOf(index: number, plain: string, wanted: string): number {
    const text = this.#bare[index]!;
    const at = text.indexOf(wanted);
    if (at < 0) return SIMILAR_RANK;
    if (text.length === wanted.length) return 0;
    if (at === 0) return 1;
    return this.#folded[index]!.includes(` ${plain}`) || this.#folded[index]!.includes(`-${plain}`) ? 2 : 3;
  }

  /** Texts in which every word of the query is found with at most a few typing errors. */
  #addWithSlips(plain: string, ranks: Map<number, number>): void {
    const parts = plain
      .split(' ')
      .map(bare)
      .filter((part) => part !== '');
    // a word may have been torn apart, or two run together
    const readings = parts.length > 1 ? [parts, [parts.join('')]] : [parts];
    for (const reading of readings) {
      // the longest word leaves the fewest texts: the others are only looked for in those
      const [longest, ...others] = [...reading].sort((a, b) => b.length - a.length);
      const found = new Map<number, number>();
      for (const { word, slips } of this.#wordsLike(longest!))
        for (const index of this.#textsOf[word]!) found.set(index, Math.min(found.get(index) ?? Infinity, slips));
      const known = others.map(() => new Map<number, number>());
      for (const [index, slips] of found) {
        let sum = slips;
        others.forEach((part, i) => {
          if (sum < Infinity) sum += this.#slipsIn(index, part, known[i]!);
        });
        if (sum === Infinity) continue;
        // a text with little else in it is meant rather than a long one
        const rest = this.#wordsOf[index]!.length - reading.length;
        const rank = SIMILAR_RANK + sum + Math.min(Math.max(rest, 0), 9) / 10;
        ranks.set(index, Math.min(ranks.get(index) ?? Infinity, rank));
      }
    }
  }

  /** How many slips lead from a word to the nearest one of a text. @param known slips of words that were compared before */
  #slipsIn(index: number, part: string, known: Map<number, number>): number {
    let least = Infinity;
    for (const word of this.#wordsOf[index]!) {
      let slips = known.get(word);
      if (slips === undefined) known.set(word, (slips = this.#slipsTo(word, part)));
      if (slips < least) least = slips;
    }
    return least;
  }

  #slipsTo(word: number, part: string): number {
    const known = this.#words[word]!;
    if (known.startsWith(part)) return known.length === part.length ? 0 : 0.5;
    const most = slipsFor(part.length);
    const slips = editDistance(part, known, most);
    return slips <= most ? slips : Infinity;
  }

  *#wordsLike(part: string): Generator<{ readonly word: number; readonly slips: number }> {
    const most = slipsFor(part.length);
    const grams = trigramsOf(part);
    // each slip spoils three pieces at most (E. Ukkonen, "Approximate string-matching with q-grams", 1992)
    const atLeast = grams.length - 3 * most;
    const candidates = atLeast >= 1 ? this.#byWord.sharing(grams, atLeast) : this.#short(part, most);
    for (const word of candidates) {
      const slips = this.#slipsTo(word, part);
      if (slips < Infinity) yield { word, slips };
    }
  }

  /** Words so near in length that slips alone may lead to them: for parts too short for their pieces to tell. */
  #short(part: string, most: number): number[] {
    const found: number[] = [];
    this.#words.forEach((word, index) => {
      if (Math.abs(word.length - part.length) <= most || word.startsWith(part)) found.push(index);
    });
    return found;
  }
}
