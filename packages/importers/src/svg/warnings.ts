import type { ReaderWarning } from '@gull-pane/core/drawing/model';

/** Counts what a reader could not take over: one entry a kind, with the line of the first. */
export class Warnings {
  readonly #byKey = new Map<string, { code: string; message: string; count: number; line: number }>();

  add(code: string, message: string, line: number): void {
    const key = `${code} ${message}`;
    const known = this.#byKey.get(key);
    if (known) known.count++;
    else this.#byKey.set(key, { code, message, count: 1, line });
  }

  list(): ReaderWarning[] {
    return [...this.#byKey.values()];
  }
}
