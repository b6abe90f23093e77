/** A call as it is sent to a worker; without an id nobody waits for the answer. */
export interface Call {
  readonly id: number | null;
  readonly about: string;
  readonly question: unknown;
}
export type Reply =
  | { readonly id: number; readonly answer: unknown }
  | { readonly id: number; readonly reason: string };

/** A worker as the page sees it; tests bring their own. */
export interface WorkerEnd {
  postMessage(call: Call): void;
  onmessage: ((event: MessageEvent<Reply>) => void) | null;
  onerror: ((event: ErrorEvent) => void) | null;
  terminate(): void;
}

/** What can be asked, by name. */
export type Asked<Calls> = { readonly [About in keyof Calls]: { readonly ask: unknown; readonly answer: unknown } };

/** The line was closed while a call waited: its answer is of no use any more. */
export class LineClosed extends Error {}

/**
 * Calls to a worker, each answered by a promise. The worker is started with the first call. A call that fails in the
 * worker, whose worker breaks down or whose line is closed is rejected: none waits for ever.
 */
export class WorkerLine<Calls extends Asked<Calls>> {
  #worker: WorkerEnd | null = null;
  #nextId = 0;
  readonly #waiting = new Map<number, { resolve: (answer: never) => void; reject: (error: Error) => void }>();

  /** @param greet tells a worker that has just been started what it has to know */
  constructor(
    private readonly start: () => WorkerEnd,
    private readonly greet: (worker: WorkerEnd) => void = () => undefined,
  ) {}

  ask<About extends keyof Calls & string>(
    about: About,
    question: Calls[About]['ask'],
  ): Promise<Calls[About]['answer']> {
    const worker = this.#started();
    const id = this.#nextId++;
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      worker.postMessage({ id, about, question });
    });
  }

  /** Says something that has no answer. It is heard before every call that is made later. */
  tell<About extends keyof Calls & string>(about: About, question: Calls[About]['ask']): void {
    this.#started().postMessage({ id: null, about, question });
  }

  /** Ends the work on all calls; they are rejected. The next one starts the worker anew. */
  end(error: Error): void {
    this.#worker?.terminate();
    this.#worker = null;
    const waiting = [...this.#waiting.values()];
    this.#waiting.clear();
    for (const { reject } of waiting) reject(error);
  }

  close(): void {
    this.end(new LineClosed());
  }

  #started(): WorkerEnd {
    if (this.#worker) return this.#worker;
    const worker = (this.#worker = this.start());
    worker.onmessage = ({ data }) => {
      const waiting = this.#waiting.get(data.id);
      this.#waiting.delete(data.id);
      if ('reason' in data) waiting?.reject(new Error(data.reason));
      else waiting?.resolve(data.answer as never);
    };
    worker.onerror = ({ message }) => this.end(new Error(`The worker has stopped: ${message || 'it did not load'}.`));
    this.greet(worker);
    return worker;
  }
}

/** A newer call of the same kind was made meanwhile. */
export class Overtaken extends Error {}

/** Makes one call at a time. While one is under way, only the newest waits for its turn. */
export class Newest {
  #isBusy = false;
  #next: { readonly start: () => void; readonly reject: (error: Error) => void } | null = null;

  /** @returns what `act` answers; rejected as `Overtaken` if a newer call was made before it answered */
  run<T>(act: () => Promise<T>): Promise<T> {
    return new Promise((resolve, reject) => {
      const start = (): void => {
        this.#isBusy = true;
        resolve(this.#ended(act()));
      };
      this.#next?.reject(new Overtaken());
      if (this.#isBusy) this.#next = { start, reject };
      else start();
    });
  }

  async #ended<T>(call: Promise<T>): Promise<T> {
    try {
      const answer = await call;
      if (this.#next) throw new Overtaken();
      return answer;
    } finally {
      const next = this.#next;
      this.#isBusy = false;
      this.#next = null;
      next?.start();
    }
  }
}
