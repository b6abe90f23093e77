/** Compares two revisions in a thread of its own: the one that answers requests goes on meanwhile. */
import { renameSync, writeFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import type { CompareOrder } from './compare-messages.ts';
import { compareRevisions } from './compare-revisions.ts';

const order = workerData as CompareOrder;
const making = `${order.outFile}.making`;
writeFileSync(making, JSON.stringify(compareRevisions(order)));
// whole or not at all, also when the server is killed meanwhile
renameSync(making, order.outFile);
parentPort!.postMessage('done');
