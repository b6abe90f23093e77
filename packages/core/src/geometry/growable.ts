type Numbers = Float64Array | Float32Array | Uint32Array | Uint16Array | Uint8Array;

/** Small, since there may be one for each of many objects. */
const FIRST_LENGTH = 32;

/** A typed array that grows by doubling: bulk data without an object a number. */
export class Growable<T extends Numbers> {
  #data: T;
  length = 0;

  constructor(private readonly make: new (length: number) => T) {
    this.#data = new make(FIRST_LENGTH);
  }

  push(value: number): void {
    if (this.length === this.#data.length) this.#grow(this.length + 1);
    this.#data[this.length++] = value;
  }

  append(values: ArrayLike<number>): void {
    if (this.length + values.length > this.#data.length) this.#grow(this.length + values.length);
    this.#data.set(values, this.length);
    this.length += values.length;
  }

  at(index: number): number {
    return this.#data[index]!;
  }

  /** The filled part; shares memory and is out of date after the next growth. */
  view(): T {
    return this.#data.subarray(0, this.length) as T;
  }

  clear(): void {
    this.length = 0;
  }

  #grow(atLeast: number): void {
    const bigger = new this.make(Math.max(atLeast, this.#data.length * 2));
    bigger.set(this.#data.subarray(0, this.length));
    this.#data = bigger;
  }
}
