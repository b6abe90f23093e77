/** Compares two revisions in a thread of its own: the one that answers requests goes on meanwhile. */
import { renameSync, writeFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import type { CompareOrder } from './compare-messages.ts';
import { compareRevisions } from './compare-revisions.ts';

const order = workerData as CompareOrder;
const { told, same } = compareRevisions(order);
writeWhole(order.sameFile, new Uint8Array(same.buffer));
writeWhole(order.outFile, JSON.stringify(told));

/** Whole or not at all, also when the server is killed meanwhile. */
function writeWhole(file: string, content: string | Uint8Array): void {
  const making = `${file}.making`;
  writeFileSync(making, content);
  renameSync(making, file);
}

parentPort!.postMessage('done');
