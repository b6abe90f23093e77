import { once } from 'node:events';
import type { GeoJsonSink } from '@gull-pane/importers/geojson/geometry-drawer';
import { ReadError } from '@gull-pane/importers/read-error';
import { startThread } from '../threads/start-thread.ts';
import { giveBatch } from './element-batches.ts';
import type { ReadLimits } from './import-messages.ts';
import type { SourceContent } from './read-here.ts';
import type { FromReading, ReadingOrder } from './reading-thread.ts';

/**
 * Reads a drawing in a thread of its own, while this one takes what comes.
 * @param sink is given the elements here, in the order of the file
 * @throws ReadError with what is wrong and where
 */
export async function readBeside(
  path: string,
  limits: ReadLimits,
  sink: GeoJsonSink,
  onRead: (bytes: number) => void,
): Promise<SourceContent> {
  const waiting = new Int32Array(new SharedArrayBuffer(4));
  const order: ReadingOrder = { path, limits, waiting };
  const thread = startThread('reading-thread', order);
  let answer: SourceContent | ReadError | undefined;
  let fault: Error | undefined;
  thread.on('message', (message: FromReading) => {
    if (message.kind === 'end') answer = message.content;
    else if (message.kind === 'refused') answer = new ReadError(message.code, message.message, message.place);
    else {
      try {
        if (fault === undefined) giveBatch(message.batch, sink);
      } catch (error) {
        fault = error instanceof Error ? error : new Error(String(error));
        void thread.terminate();
      }
      onRead(message.bytesRead);
      Atomics.sub(waiting, 0, 1);
      Atomics.notify(waiting, 0);
    }
  });
  await once(thread, 'exit'); // an error of the thread fails it
  if (fault !== undefined) throw fault;
  if (answer instanceof ReadError) throw answer;
  if (!answer) throw new Error('The thread that reads ended without an answer.');
  return answer;
}
