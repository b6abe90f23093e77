interface Range {
  start: number;
  length: number;
}

/** Gives out stretches of a row of places that can grow: first fit, neighbours that become free are joined. */
export class RangeAllocator {
  /** Rising; no two touch. */
  readonly #free: Range[];

  constructor(private size: number) {
    this.#free = size > 0 ? [{ start: 0, length: size }] : [];
  }

  get capacity(): number {
    return this.size;
  }

  /** @returns where the stretch begins; null if there is no room for it */
  take(length: number): number | null {
    const index = this.#free.findIndex((range) => range.length >= length);
    const range = this.#free[index];
    if (!range) return null;
    const { start } = range;
    range.start += length;
    range.length -= length;
    if (range.length === 0) this.#free.splice(index, 1);
    return start;
  }

  /** Gives a stretch back that was taken. */
  give(start: number, length: number): void {
    if (length === 0) return;
    let index = this.#free.findIndex((range) => range.start > start);
    if (index < 0) index = this.#free.length;
    const [before, after] = [this.#free[index - 1], this.#free[index]];
    const touchesBefore = before !== undefined && before.start + before.length === start;
    const touchesAfter = after !== undefined && start + length === after.start;
    if (touchesBefore) before.length += length + (touchesAfter ? after.length : 0);
    else if (touchesAfter) Object.assign(after, { start, length: length + after.length });
    else this.#free.splice(index, 0, { start, length });
    if (touchesBefore && touchesAfter) this.#free.splice(index, 1);
  }

  /** Adds places at the end. */
  growTo(size: number): void {
    const before = this.size;
    if (size <= before) return;
    this.size = size;
    this.give(before, size - before);
  }
}
