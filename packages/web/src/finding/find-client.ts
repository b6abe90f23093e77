import { Newest, WorkerLine, type WorkerEnd } from '../basics/worker-line';
import type { FindCalls, FoundText } from './find-calls';

export const startFindWorker = (): WorkerEnd =>
  new Worker(new URL('./find-worker.ts', import.meta.url), { type: 'module' });

/** Asks for texts of a drawing. */
export class FindClient {
  readonly #line: WorkerLine<FindCalls>;
  readonly #typed = new Newest();

  /** @param url where the drawing's texts are */
  constructor(url: string, startWorker: () => WorkerEnd) {
    this.#line = new WorkerLine(startWorker, () => this.#line.tell('open', url));
  }

  /** Texts by their words, the best first. @throws Overtaken if another query was typed meanwhile */
  find(query: string, most: number): Promise<readonly FoundText[]> {
    return this.#typed.run(() => this.#line.ask('find', { query, most }));
  }

  /** The text that stands out most about a place; null if none is near. */
  nearestText({ x, y }: { readonly x: number; readonly y: number }, radius: number): Promise<string | null> {
    return this.#line.ask('nearest', { x, y, radius });
  }

  /** All texts in a box as one number: another one if any of them is another. Drawing units. */
  printOf({ minX, minY, maxX, maxY }: FindCalls['print']['ask']): Promise<string> {
    return this.#line.ask('print', { minX, minY, maxX, maxY });
  }

  close(): void {
    this.#line.close();
  }
}
