import type { Answers, FromPickWorker, PickQuestion, PickQuestions, ToPickWorker } from './pick-questions';

/** A worker as its client sees it; tests bring their own. */
export interface PickWorker {
  postMessage(message: ToPickWorker): void;
  onmessage: ((event: MessageEvent<FromPickWorker>) => void) | null;
  terminate(): void;
}

/** Asks the picking worker, which is started with the first question. Of questions that come too fast only the last is asked. */
export class PickClient implements Answers {
  #worker: PickWorker | null = null;
  #nextId = 0;
  #hidden: Extract<ToPickWorker, { kind: 'hide' }> = { kind: 'hide', layers: [], objects: null };
  readonly #waiting = new Map<number, { resolve: (answer: never) => void; reject: (error: Error) => void }>();
  readonly #latest = new Map<string, { isBusy: boolean; next: (() => void) | null }>();

  /** @param address where the drawing's files are, with a slash at its end */
  constructor(
    private readonly address: string,
    private readonly startWorker: () => PickWorker,
  ) {}

  /**
   * What takes part in nothing.
   * @param objects a byte an object, 0 if it is shown; null if all are
   */
  hide(layers: readonly number[], objects: Uint8Array | null): void {
    this.#hidden = { kind: 'hide', layers, objects };
    this.#worker?.postMessage(this.#hidden);
  }

  ask<About extends PickQuestion>(
    about: About,
    question: PickQuestions[About]['ask'],
  ): Promise<PickQuestions[About]['answer']> {
    const worker = (this.#worker ??= this.#start());
    const id = this.#nextId++;
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      worker.postMessage({ kind: 'ask', id, about, question });
    });
  }

  /**
   * Asks what changes while a hand moves: while one answer is awaited, only the newest question waits for its turn.
   * @param take called with the answer; not at all for questions that were overtaken or failed
   */
  askLatest<About extends PickQuestion>(
    about: About,
    question: PickQuestions[About]['ask'],
    take: (answer: PickQuestions[About]['answer']) => void,
    purpose: string = about,
  ): void {
    const queue = this.#latest.get(purpose) ?? { isBusy: false, next: null };
    this.#latest.set(purpose, queue);
    const run = (): void => {
      queue.isBusy = true;
      queue.next = null;
      const done = (): void => {
        queue.isBusy = false;
        queue.next?.();
      };
      this.ask(about, question).then((answer) => {
        if (!queue.next) take(answer);
        done();
      }, done);
    };
    if (queue.isBusy) queue.next = run;
    else run();
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#waiting.clear();
  }

  #start(): PickWorker {
    const worker = this.startWorker();
    worker.onmessage = ({ data }) => {
      const waiting = this.#waiting.get(data.id);
      this.#waiting.delete(data.id);
      if (data.kind === 'answer') waiting?.resolve(data.answer as never);
      else waiting?.reject(new Error(data.reason));
    };
    worker.postMessage({ kind: 'open', address: this.address });
    worker.postMessage(this.#hidden);
    return worker;
  }
}
