import { on } from 'node:events';
import type { Worker } from 'node:worker_threads';
import { Problem } from '../problem.ts';
import { startThread } from '../threads/start-thread.ts';
import type { ExportOrder, FromExport, ToExport } from './export-messages.ts';

type Progress = Extract<FromExport, { kind: 'progress' }>;

/**
 * Writes a drawing in its thread, which makes the next piece only when it is asked for.
 * @returns the pieces of the file
 * @throws Problem nothing-to-export before the first of them
 */
export async function runExport(
  order: ExportOrder,
  onProgress: (progress: Progress) => void = () => undefined,
): Promise<AsyncGenerator<Uint8Array>> {
  const thread = startThread('export-thread', order);
  // whatever comes is queued: nothing is lost between two questions
  const messages = on(thread, 'message') as AsyncIterableIterator<[FromExport]>;
  const next = async (): Promise<Exclude<FromExport, Progress>> => {
    const ask: ToExport = 'next';
    thread.postMessage(ask);
    for (;;) {
      const told = (await messages.next()) as IteratorResult<[FromExport], undefined>;
      if (told.done) throw new Error('The export ended before it was complete.');
      const [message] = told.value;
      if (message.kind !== 'progress') return message;
      onProgress(message);
    }
  };
  const first = await next();
  if (first.kind === 'nothing') throw new Problem('nothing-to-export');
  return pieces(thread, first, next);
}

async function* pieces(
  thread: Worker,
  first: Exclude<FromExport, Progress>,
  next: () => Promise<Exclude<FromExport, Progress>>,
): AsyncGenerator<Uint8Array> {
  try {
    for (let message = first; message.kind === 'piece'; message = await next()) yield message.bytes;
  } finally {
    // the client may be gone
    await thread.terminate();
  }
}
