import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import type { Flooded } from '@gull-pane/core/planar/flood';
import type { PickQuestions } from '../picking/pick-questions';

export type AreaQuestion = PickQuestions['flood']['ask'];
/** The area around a place, its coordinates about that place. */
export interface FoundArea {
  readonly at: Vec2;
  readonly found: Flooded;
}

export interface AreasState {
  /** The place around which an area is being looked for, because it was clicked; null if none is. */
  readonly looking: Vec2 | null;
  /** What a click at the cursor would hatch; null while that isn't known. */
  readonly preview: FoundArea | null;
  /**
   * Looks for the area around a place. Whatever was being looked for is given up.
   * @returns null if it was given up
   * @throws Error if the search fails
   */
  readonly find: (question: AreaQuestion) => Promise<Flooded | null>;
  /** Looks for what a click would hatch, unless an area is being looked for. */
  readonly show: (question: AreaQuestion) => void;
  readonly forgetPreview: () => void;
  /** Gives up at once whatever is being looked for. */
  readonly cancel: () => void;
}
export type AreasStore = StoreApi<AreasState>;

/** What looks for areas: a worker of its own, so that nothing else waits for it. */
export interface AreaAnswers {
  ask(about: 'flood', question: AreaQuestion): Promise<Flooded>;
  /** Ends the work on all questions; they fail. */
  giveUp(): void;
}

/** Looks for areas in one pane: one at a time, the last one that was asked for. */
export function createAreasStore(answers: AreaAnswers): AreasStore {
  /** Rises with every search: answers to earlier ones are dropped. */
  let serial = 0;
  /** Previews take turns: they are short, and only the last one counts. */
  let isShowing = false;
  let next: AreaQuestion | null = null;
  return createStore<AreasState>((set, get) => {
    const ask = async (question: AreaQuestion): Promise<Flooded | null> => {
      const own = ++serial;
      try {
        const found = await answers.ask('flood', question);
        return own === serial ? found : null;
      } catch (error) {
        if (own === serial) throw error;
        return null;
      }
    };
    const endSearch = (): void => {
      serial++;
      next = null;
      if (get().looking) answers.giveUp();
    };
    const show = async (question: AreaQuestion): Promise<void> => {
      isShowing = true;
      try {
        const found = await ask(question);
        if (found) set({ preview: { at: question.at, found } });
      } catch {
        // a click tells what is wrong
      }
      isShowing = false;
      const waiting = next;
      next = null;
      if (waiting && !get().looking) void show(waiting);
    };
    return {
      looking: null,
      preview: null,
      async find(question) {
        const { at } = question;
        endSearch();
        set({ looking: at });
        try {
          return await ask(question);
        } finally {
          if (get().looking === at) set({ looking: null });
        }
      },
      show(question) {
        if (get().looking) return;
        if (isShowing) next = question;
        else void show(question);
      },
      forgetPreview() {
        next = null;
        if (get().preview) set({ preview: null });
      },
      cancel() {
        endSearch();
        if (get().looking || get().preview) set({ looking: null, preview: null });
      },
    };
  });
}
