import { once } from 'node:events';
import { collectGarbage } from '../threads/collect-garbage.ts';
import { fewYoung, startThread } from '../threads/start-thread.ts';
import type { IndexOrder } from './index-thread.ts';
import { MANY_OBJECTS, writeObjectIndex, type IndexSource } from './write-object-index.ts';

/** A drawing of fewer objects is indexed sooner than a thread has begun. */
const FEW_OBJECTS = 20_000;

/** An index that is being written. */
export interface IndexBeside {
  /** Comes back when there is memory for tiles. */
  readonly makeRoom: () => Promise<void>;
  /** Comes back when it is written; fails if it can't be. */
  readonly finish: () => Promise<void>;
  /** Gives it up. */
  readonly stop: () => Promise<void>;
}

/** Begins to write the index of a drawing: of a large one in a thread, of a small one when it is finished. */
export function indexBeside(source: IndexSource, folder: string): IndexBeside {
  if (source.painted.length < FEW_OBJECTS)
    return {
      makeRoom: () => Promise.resolve(),
      finish: () => writeObjectIndex(source, folder),
      stop: () => Promise.resolve(),
    };
  // tiles wait until its columns are gone
  const isLarge = source.painted.length > MANY_OBJECTS;
  const order: IndexOrder = { source, folder };
  const thread = startThread('index-thread', order, fewYoung);
  const done = once(thread, 'message'); // an error of the thread fails it, too
  done.catch(() => undefined);
  return {
    makeRoom: async () => {
      if (!isLarge) return;
      await done;
      collectGarbage();
    },
    finish: async () => {
      await done;
    },
    stop: async () => {
      await thread.terminate();
    },
  };
}
