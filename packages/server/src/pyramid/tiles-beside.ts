import { once } from 'node:events';
import { availableParallelism } from 'node:os';
import type { ItemTable } from '@gull-pane/core/pyramid/items';
import type { Worker } from 'node:worker_threads';
import { fewYoung, startThread } from '../threads/start-thread.ts';
import type { TileOrder, WrittenTile } from './tile-maker.ts';
import type { FromTileThread, TileShare, TileThreadOrder } from './tile-thread.ts';

/** Tiles of fewer items are made sooner than a thread has begun. */
const FEW_ITEMS = 20_000;
/** More threads than this wait for memory rather than for processors. */
const MOST_THREADS = 3;

/** Parts of a pyramid that this thread and others take in turns. */
export interface TilesBeside {
  /** The number of the part that the caller makes next; as many as there are parts, or more, once all are taken. */
  readonly take: () => number;
  /** What the others have made, by the number of its part. */
  readonly finish: () => Promise<ReadonlyMap<number, WrittenTile>>;
  /** Gives it up. */
  readonly stop: () => Promise<void>;
}

/**
 * Begins a thread for each further processor.
 *
 * @param onTile told of each tile that another thread makes
 * @param fewItems of so many, or fewer, this thread makes all
 */
export function tilesBeside(
  table: ItemTable,
  order: TileOrder,
  shares: readonly TileShare[],
  onTile: () => void,
  fewItems = FEW_ITEMS,
): TilesBeside {
  const taken = new Int32Array(new SharedArrayBuffer(4));
  const made = new Map<number, WrittenTile>();
  const threads: Worker[] = [];
  if (table.length > fewItems && shares.length > 1) {
    const forThread: TileThreadOrder = { columns: table.columns(), order, shares, taken };
    const count = Math.min(Math.max(availableParallelism() - 1, 1), MOST_THREADS);
    while (threads.length < count) threads.push(startThread('tile-thread', forThread, fewYoung));
  }
  const done = Promise.all(
    threads.map((thread) => {
      thread.on('message', (message: FromTileThread) => {
        if (message.kind === 'tile') onTile();
        else made.set(message.share, message.written);
      });
      return once(thread, 'exit'); // an error of the thread fails it
    }),
  );
  done.catch(() => undefined);
  return {
    take: () => Atomics.add(taken, 0, 1),
    finish: async () => {
      await done;
      return made;
    },
    stop: async () => {
      await Promise.all(threads.map((thread) => thread.terminate()));
    },
  };
}
