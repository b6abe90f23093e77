import { create, type StoreApi, type UseBoundStore } from 'zustand';
import { ApiError } from '../api/client';

/** Between tries to reach the server, ms: the first, and the longest. */
const PAUSE_MS = { first: 500, longest: 4000 } as const;

export interface SavingState {
  /** Changes that aren't on the server yet. */
  readonly waiting: number;
  /** False after a change couldn't be sent: it is tried again until it can. */
  readonly isReachable: boolean;
  /** When the last change was saved, ms since 1970; null if there was none. */
  readonly savedAtMs: number | null;
  /**
   * Sends a change after all that were made before it. One that can't reach the server is tried again.
   * @returns when it was answered; rejected if the server refused it
   */
  readonly save: (send: () => Promise<void>) => Promise<void>;
  /** The server may be back: the next try is made now. */
  readonly retry: () => void;
  readonly setReachable: (isReachable: boolean) => void;
}

/** Whether an error says that the server wasn't reached, not that it refused. */
export const isOutOfReach = (error: unknown): boolean =>
  error instanceof ApiError && (error.status === 0 || error.status === 502 || error.status === 503);

/** Sends changes one after the other, so that each is made of what the one before has left, and none is lost. */
export function createSaver(): UseBoundStore<StoreApi<SavingState>> {
  let last = Promise.resolve();
  let wake: (() => void) | null = null;
  return create<SavingState>()((set, get) => {
    const pause = (ms: number): Promise<void> =>
      new Promise((resolve) => {
        const timer = setTimeout(resolve, ms);
        wake = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    const sendUntilAnswered = async (send: () => Promise<void>): Promise<void> => {
      for (let ms: number = PAUSE_MS.first; ; ms = Math.min(2 * ms, PAUSE_MS.longest)) {
        try {
          await send();
          set({ isReachable: true, savedAtMs: Date.now() });
          return;
        } catch (error) {
          if (!isOutOfReach(error)) throw error;
          set({ isReachable: false });
          await pause(ms);
          wake = null;
        }
      }
    };
    return {
      waiting: 0,
      isReachable: true,
      savedAtMs: null,
      save(send) {
        set({ waiting: get().waiting + 1 });
        const sent = last.then(() => sendUntilAnswered(send));
        const done = (): void => set({ waiting: get().waiting - 1 });
        last = sent.then(done, done);
        return sent;
      },
      retry() {
        set({ isReachable: true });
        wake?.();
      },
      setReachable(isReachable) {
        if (get().isReachable !== isReachable) set({ isReachable });
      },
    };
  });
}

/** What this window sends. */
export const useSaver = createSaver();
