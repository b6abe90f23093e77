/** FNV-1a, 32 bit (Fowler, Noll, Vo), from two starting values. */
const PRIME = 0x01000193;
const STARTS = [0x811c9dc5, 0x1f83d9ab] as const;

/** Tells by one number what a set of things is: the same things in any order have the same, others another one. */
export class ContentPrint {
  #sums: [number, number] = [0, 0];
  #count = 0;

  /** @param numbers of one thing, taken as doubles to the last bit @param words that belong to it */
  add(numbers: ArrayLike<number>, words = ''): void {
    const bytes = new Uint8Array(Float64Array.from(numbers).buffer);
    for (const k of [0, 1] as const) {
      let hash: number = STARTS[k];
      for (const byte of bytes) hash = Math.imul(hash ^ byte, PRIME);
      for (let i = 0; i < words.length; i++) hash = Math.imul(hash ^ words.charCodeAt(i), PRIME);
      // a last stir, so that sums of like things don't meet
      hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
      this.#sums[k] = (this.#sums[k] + (hash ^ (hash >>> 12))) >>> 0;
    }
    this.#count++;
  }

  toString(): string {
    return [this.#count, ...this.#sums].map((part) => part.toString(36)).join('-');
  }
}
