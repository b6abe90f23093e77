import { setTimeout } from 'node:timers/promises';

/** Whether the server is about to stop: it says that it isn't ready any more, and goes on answering for a while. */
export class Drain {
  #isDraining = false;
  readonly #cutShort = new AbortController();

  get isDraining(): boolean {
    return this.#isDraining;
  }

  /** @param seconds those who share out requests have to notice */
  async begin(seconds: number): Promise<void> {
    this.#isDraining = true;
    if (seconds <= 0) return;
    await setTimeout(1000 * seconds, null, { signal: this.#cutShort.signal }).catch(() => undefined);
  }

  /** Ends what `begin` waits for. */
  cutShort(): void {
    this.#cutShort.abort();
  }
}
