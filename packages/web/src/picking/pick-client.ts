import { Newest, WorkerLine, type WorkerEnd } from '../basics/worker-line';
import type { Answers, Hiding, PickCalls, PickQuestion, PickQuestions } from './pick-questions';

/** The way to the picking worker of a drawing, for all panes that show it. */
export class PickLine {
  readonly #line: WorkerLine<PickCalls>;
  /** What the worker was told last. */
  #hidden: Hiding | null = null;

  /** @param address where the drawing's files are, with a slash at its end */
  constructor(address: string, startWorker: () => WorkerEnd) {
    this.#line = new WorkerLine(startWorker, () => {
      this.#hidden = null;
      this.#line.tell('open', address);
    });
  }

  /** @param hidden of the pane that asks */
  ask<About extends PickQuestion>(
    hidden: Hiding,
    about: About,
    question: PickQuestions[About]['ask'],
  ): Promise<PickQuestions[About]['answer']> {
    if (hidden !== this.#hidden) this.#line.tell('hide', hidden);
    this.#hidden = hidden;
    return this.#line.ask(about, question);
  }

  /** Ends the work on all questions; they fail. The next one starts the worker anew. */
  giveUp(): void {
    this.#hidden = null;
    this.#line.end(new Error('The question was given up.'));
  }

  close(): void {
    this.#line.close();
  }
}

/** Asks for one pane, which hides what it hides. Of questions that come too fast only the last is asked. */
export class PickClient implements Answers {
  #hidden: Hiding = { layers: [], objects: null };
  readonly #latest = new Map<string, Newest>();

  constructor(private readonly line: PickLine) {}

  hide(layers: readonly number[], objects: Uint8Array | null): void {
    this.#hidden = { layers, objects };
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
    const newest = this.#latest.get(purpose) ?? new Newest();
    this.#latest.set(purpose, newest);
    newest.run(() => this.ask(about, question)).then(take, () => undefined);
  }
}
