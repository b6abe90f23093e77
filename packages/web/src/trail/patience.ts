/** How long something is waited for before what there is of it will do. Only time in which nothing else came between counts. */
export class Patience {
  #waiting: { readonly what: object; readonly sinceMs: number } | null = null;

  /** @param nowMs by any clock that doesn't go back @returns whether it has been waited for so long */
  hasWaited(what: object, longMs: number, nowMs: number): boolean {
    if (this.#waiting?.what !== what) this.#waiting = { what, sinceMs: nowMs };
    return nowMs - this.#waiting.sinceMs >= longMs;
  }

  /** Waiting begins anew: it came, or something else was done meanwhile. */
  begin(): void {
    this.#waiting = null;
  }
}
