import type { FoundText, FromFindWorker, ToFindWorker } from './find-worker';

/** A worker as its client sees it. */
export interface FindWorker {
  postMessage(message: ToFindWorker): void;
  onmessage: ((event: MessageEvent<FromFindWorker>) => void) | null;
  terminate(): void;
}

export const startFindWorker = (): FindWorker =>
  new Worker(new URL('./find-worker.ts', import.meta.url), { type: 'module' });

/** Asks for texts; only the newest question is answered. */
export class FindClient {
  #worker: FindWorker | null = null;
  #newest = 0;
  #take: ((answer: { found: readonly FoundText[]; reason: string | null }) => void) | null = null;

  constructor(
    private readonly url: string,
    private readonly startWorker: () => FindWorker,
  ) {}

  find(query: string, most: number): Promise<{ found: readonly FoundText[]; reason: string | null }> {
    const worker = (this.#worker ??= this.#start());
    const id = ++this.#newest;
    worker.postMessage({ id, url: this.url, query, most });
    return new Promise((resolve) => {
      this.#take = resolve;
    });
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
  }

  #start(): FindWorker {
    const worker = this.startWorker();
    worker.onmessage = ({ data: { id, found, reason } }) => {
      if (id === this.#newest) this.#take?.({ found, reason: reason ?? null });
    };
    return worker;
  }
}
