import type { ReaderWarning } from '@gull-pane/core/drawing/model';

/** Counts what a reader could not take over: one entry a kind, with the line or page of the first. */
export class Warnings {
  readonly #byKey = new Map<string, { code: string; message: string; count: number; place: number }>();

  /** @param places what a place is a number of */
  constructor(private readonly places: 'line' | 'page' = 'line') {}

  /** @param times how often it happened there */
  add(code: string, message: string, place: number, times = 1): void {
    const key = `${code} ${message}`;
    const known = this.#byKey.get(key);
    if (known) known.count += times;
    else this.#byKey.set(key, { code, message, count: times, place });
  }

  list(): ReaderWarning[] {
    return [...this.#byKey.values()].map(({ place, ...warning }) => ({ ...warning, [this.places]: place }));
  }
}
