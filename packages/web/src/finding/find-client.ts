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
  #others = 0;
  readonly #waiting = new Map<number, (found: readonly FoundText[]) => void>();
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

  /** The text that stands out most about a place; null if none is near. */
  async nearestText({ x, y }: { readonly x: number; readonly y: number }, radius: number): Promise<string | null> {
    const near = this.#askOther({ url: this.url, query: '', most: 1, near: { x, y, radius } });
    return (await near)[0]?.content ?? null;
  }

  /** All texts in a box as one number: another one if any of them is another. Drawing units. */
  async printOf(print: NonNullable<ToFindWorker['print']>): Promise<string> {
    const { minX, minY, maxX, maxY } = print;
    const found = await this.#askOther({ url: this.url, query: '', most: 1, print: { minX, minY, maxX, maxY } });
    const [first] = found;
    if (!first) throw new Error('the texts can’t be read');
    return first.content;
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
  }

  /** A question that doesn't overtake what is being typed. */
  #askOther(question: Omit<ToFindWorker, 'id'>): Promise<readonly FoundText[]> {
    const worker = (this.#worker ??= this.#start());
    const id = --this.#others;
    worker.postMessage({ id, ...question });
    return new Promise((resolve) => this.#waiting.set(id, resolve));
  }

  #start(): FindWorker {
    const worker = this.startWorker();
    worker.onmessage = ({ data: { id, found, reason } }) => {
      this.#waiting.get(id)?.(found);
      this.#waiting.delete(id);
      if (id === this.#newest) this.#take?.({ found, reason: reason ?? null });
    };
    return worker;
  }
}
