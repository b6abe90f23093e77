import { Scratch } from '../geometry/scratch.ts';

const pairs = new Scratch(Uint32Array);
const values = new Scratch(Int32Array);

/** Pairs of vertices to one number, by open addressing. A table is good until the next one is made. */
export class PairTable {
  readonly #mask: number;
  readonly #pairs: Uint32Array;
  readonly #values: Int32Array;

  constructor(most: number) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(2 * most, 16)));
    this.#mask = size - 1;
    this.#pairs = pairs.take(2 * size);
    this.#values = values.take(size).fill(-1, 0, size);
  }

  /** @returns the number that the pair has, or gets */
  findOrAdd(low: number, high: number, value: number): number {
    let hash = Math.imul(low, 73856093) ^ Math.imul(high, 19349663);
    hash ^= hash >>> 15;
    let at = hash & this.#mask;
    for (; this.#values[at]! >= 0; at = (at + 1) & this.#mask)
      if (this.#pairs[2 * at] === low && this.#pairs[2 * at + 1] === high) return this.#values[at]!;
    this.#pairs[2 * at] = low;
    this.#pairs[2 * at + 1] = high;
    this.#values[at] = value;
    return value;
  }
}
