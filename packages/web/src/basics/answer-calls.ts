import type { Asked, Call, Reply } from './worker-line';

type Handlers<Calls extends Asked<Calls>> = {
  readonly [About in keyof Calls]: (
    question: Calls[About]['ask'],
  ) => Calls[About]['answer'] | Promise<Calls[About]['answer']>;
};

/** In a worker: answers the calls of a `WorkerLine`. Handlers are begun in the order of the calls. */
export function answerCalls<Calls extends Asked<Calls>>(handlers: Handlers<Calls>): void {
  self.onmessage = async ({ data: { id, about, question } }: MessageEvent<Call>): Promise<void> => {
    const reply = (message: Reply): void => self.postMessage(message);
    try {
      const answer = await handlers[about as keyof Calls](question);
      if (id !== null) reply({ id, answer });
    } catch (error) {
      if (id === null) console.error(error);
      else reply({ id, reason: String(error) });
    }
  };
}
