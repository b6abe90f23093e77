import { once } from 'node:events';
import type { Worker } from 'node:worker_threads';
import { Problem } from '../problem.ts';
import { startThread } from '../threads/start-thread.ts';
import type { ExportOrder, FromExport, ToExport } from './export-messages.ts';

/**
 * Writes a drawing in its thread, which makes the next piece only when it is asked for.
 * @returns the pieces of the file
 * @throws Problem nothing-to-export before the first of them
 */
export async function runExport(order: ExportOrder): Promise<AsyncGenerator<Uint8Array>> {
  const thread = startThread('export-thread', order);
  const first = await nextOf(thread);
  if (first.kind === 'nothing') throw new Problem('nothing-to-export');
  return pieces(thread, first);
}

async function* pieces(thread: Worker, first: FromExport): AsyncGenerator<Uint8Array> {
  try {
    for (let message = first; message.kind === 'piece'; message = await nextOf(thread)) yield message.bytes;
  } finally {
    // the client may be gone
    await thread.terminate();
  }
}

/** @throws what the thread failed with */
async function nextOf(thread: Worker): Promise<FromExport> {
  const ask: ToExport = 'next';
  thread.postMessage(ask);
  const [message] = (await once(thread, 'message')) as [FromExport];
  return message;
}
