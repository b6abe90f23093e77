import type { ChangeEvent } from '@gull-pane/protocol/events';

/** Passes what has changed on to everybody who listens. */
export class Changes {
  readonly #listeners = new Set<(event: ChangeEvent) => void>();

  tell(event: ChangeEvent): void {
    for (const listener of this.#listeners) listener(event);
  }

  /** @returns a function that ends it */
  listen(listener: (event: ChangeEvent) => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }
}
