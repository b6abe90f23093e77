/** Writes the index of a large drawing in a thread of its own, while its tiles are made. */
import { parentPort, workerData } from 'node:worker_threads';
import { writeObjectIndex, type IndexSource } from './write-object-index.ts';

export interface IndexOrder {
  readonly source: IndexSource;
  /** Of the revision. */
  readonly folder: string;
}

const { source, folder } = workerData as IndexOrder;
await writeObjectIndex(source, folder);
parentPort!.postMessage('done');
