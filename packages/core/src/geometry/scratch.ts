type Numbers = Float64Array | Float32Array | Int32Array | Uint32Array | Uint8Array;

/** Longer arrays are made anew: for them that takes less time than what is done with them. */
const MOST_KEPT = 4096;

/**
 * An array for use within one call. A model may have a hundred thousand meshes of a few triangles: making ten arrays for
 * each of them would take longer than working them out.
 */
export class Scratch<T extends Numbers> {
  readonly #kept: T;

  constructor(private readonly make: new (length: number) => T) {
    this.#kept = new make(MOST_KEPT);
  }

  /** @returns at least so many numbers, of any value; they are good until the next call of this method */
  take(length: number): T {
    return length <= MOST_KEPT ? this.#kept : new this.make(length);
  }
}
