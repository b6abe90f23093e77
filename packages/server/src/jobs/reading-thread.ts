/** Reads a drawing in a thread of its own and hands its elements on in batches, not far ahead of what takes them. */
import { parentPort, workerData } from 'node:worker_threads';
import { ReadError } from '@gull-pane/importers/read-error';
import { BatchWriter, type ElementBatch } from './element-batches.ts';
import type { ReadLimits } from './import-messages.ts';
import { readHere, type SourceContent } from './read-here.ts';

export interface ReadingOrder {
  readonly path: string;
  readonly limits: ReadLimits;
  /** How many batches wait to be taken, in shared memory. */
  readonly waiting: Int32Array;
}

export type FromReading =
  | { readonly kind: 'batch'; readonly batch: ElementBatch; readonly bytesRead: number }
  | { readonly kind: 'end'; readonly content: SourceContent }
  | {
      readonly kind: 'refused';
      readonly code: ReadError['code'];
      readonly message: string;
      readonly place: ReadError['place'];
    };

/** Batches that may wait: enough that neither thread waits for the other for long. */
const MOST_WAITING = 4;

const { path, limits, waiting } = workerData as ReadingOrder;
const say = (message: FromReading, handedOver: ArrayBuffer[] = []): void =>
  parentPort!.postMessage(message, handedOver);
let bytesRead = 0;
const writer = new BatchWriter((batch) => {
  for (let ahead = Atomics.load(waiting, 0); ahead >= MOST_WAITING; ahead = Atomics.load(waiting, 0))
    Atomics.wait(waiting, 0, ahead);
  Atomics.add(waiting, 0, 1);
  say({ kind: 'batch', batch, bytesRead }, [batch.paths.buffer, batch.ops.buffer, batch.coords.buffer]);
});
try {
  const content = await readHere(path, limits, writer, (bytes) => (bytesRead = bytes));
  writer.flush();
  say({ kind: 'end', content });
} catch (error) {
  if (!(error instanceof ReadError)) throw error;
  say({ kind: 'refused', code: error.code, message: error.message, place: error.place });
}
