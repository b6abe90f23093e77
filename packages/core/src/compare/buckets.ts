/** Objects by a hash of what they have in common: chains in typed arrays, no object each. */
export class Buckets {
  readonly #heads: Int32Array;
  readonly #next: Int32Array;
  readonly #mask: number;

  /** @param count objects are numbered below it */
  constructor(count: number) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(count, 16)));
    this.#heads = new Int32Array(size).fill(-1);
    this.#next = new Int32Array(count).fill(-1);
    this.#mask = size - 1;
  }

  add(hash: number, object: number): void {
    const at = hash & this.#mask;
    this.#next[object] = this.#heads[at]!;
    this.#heads[at] = object;
  }

  /** The first object of a hash, or of one that shares its place; −1 for none. */
  first(hash: number): number {
    return this.#heads[hash & this.#mask]!;
  }

  /** The one after it; −1 for none. */
  after(object: number): number {
    return this.#next[object]!;
  }
}

/** Mixes one more number into a hash (the finisher of MurmurHash3, A. Appleby). */
export function mix(hash: number, value: number): number {
  let h = Math.imul(hash ^ value, 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}
