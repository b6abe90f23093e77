import type { Answers, FromPickWorker, PickQuestion, PickQuestions, ToPickWorker } from './pick-questions';

/** A worker as its client sees it; tests bring their own. */
export interface PickWorker {
  postMessage(message: ToPickWorker): void;
  onmessage: ((event: MessageEvent<FromPickWorker>) => void) | null;
  terminate(): void;
}

/** What takes part in nothing. */
export type HidingOrder = Extract<ToPickWorker, { kind: 'hide' }>;

/** The way to the picking worker of a drawing, for all panes that show it. It is started with the first question. */
export class PickLine {
  #worker: PickWorker | null = null;
  #nextId = 0;
  /** What the worker was told last. */
  #hidden: HidingOrder | null = null;
  readonly #waiting = new Map<number, { resolve: (answer: never) => void; reject: (error: Error) => void }>();

  /** @param address where the drawing's files are, with a slash at its end */
  constructor(
    private readonly address: string,
    private readonly startWorker: () => PickWorker,
  ) {}

  /** @param hidden of the pane that asks */
  ask<About extends PickQuestion>(
    hidden: HidingOrder,
    about: About,
    question: PickQuestions[About]['ask'],
  ): Promise<PickQuestions[About]['answer']> {
    const worker = (this.#worker ??= this.#start());
    if (hidden !== this.#hidden) worker.postMessage(hidden);
    this.#hidden = hidden;
    const id = this.#nextId++;
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      worker.postMessage({ kind: 'ask', id, about, question });
    });
  }

  /** Ends the work on all questions; they fail. The next one starts the worker anew. */
  giveUp(): void {
    const waiting = [...this.#waiting.values()];
    this.close();
    for (const { reject } of waiting) reject(new Error('The question was given up.'));
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#hidden = null;
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
    return worker;
  }
}

/** Asks for one pane, which hides what it hides. Of questions that come too fast only the last is asked. */
export class PickClient implements Answers {
  #hidden: HidingOrder = { kind: 'hide', layers: [], objects: null };
  readonly #latest = new Map<string, { isBusy: boolean; next: (() => void) | null }>();

  constructor(private readonly line: PickLine) {}

  hide(layers: readonly number[], objects: Uint8Array | null): void {
    this.#hidden = { kind: 'hide', layers, objects };
  }

  /** Ends the work on the questions of all panes of this line. */
  giveUp(): void {
    this.line.giveUp();
  }

  ask<About extends PickQuestion>(
    about: About,
    question: PickQuestions[About]['ask'],
  ): Promise<PickQuestions[About]['answer']> {
    return this.line.ask(this.#hidden, about, question);
  }

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
}
