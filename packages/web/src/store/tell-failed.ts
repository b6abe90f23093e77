import { LineClosed } from '../basics/worker-line';
import { useNotes } from './notes-store';

/**
 * For the `catch` of what is asked about a drawing: tells in passing that it couldn't be done, unless the drawing has
 * been closed meanwhile.
 * @param what a sentence: what wasn't done
 */
export const tellFailed =
  (what: string) =>
  (error: unknown): void => {
    if (error instanceof LineClosed) return;
    useNotes.getState().tell('failed', `${what} The drawing’s objects didn’t arrive. Try again.`);
  };
