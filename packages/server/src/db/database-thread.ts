/** Runs the embedded PostgreSQL in a thread of its own: its SQL would otherwise hold up every request. */
import { readFile } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';

const port = parentPort!;
const { folder, archive } = workerData as { folder: string; archive?: string };

export type ToDatabase =
  | { readonly kind: 'bytes'; readonly bytes: Uint8Array }
  | { readonly kind: 'dump' }
  | { readonly kind: 'close' };
export type FromDatabase =
  | { readonly kind: 'ready' }
  | { readonly kind: 'bytes'; readonly bytes: Uint8Array }
  /** All of it as a tar archive. */
  | { readonly kind: 'dumped'; readonly archive: Uint8Array }
  | { readonly kind: 'broken'; readonly message: string }
  | { readonly kind: 'closed' };

const say = (message: FromDatabase): void => port.postMessage(message);

let database: PGlite;
try {
  database = await PGlite.create({
    dataDir: folder,
    ...(archive === undefined ? {} : { loadDataDir: new Blob([await readFile(archive)]) }),
  });
} catch (error) {
  say({ kind: 'broken', message: String(error) });
  throw error;
}
// the wire protocol is a stream: messages are answered strictly one after another
let queue = Promise.resolve();
port.on('message', (message: ToDatabase) => {
  queue = queue.then(async () => {
    if (message.kind === 'close') {
      await database.close();
      say({ kind: 'closed' });
      port.close();
      return;
    }
    if (message.kind === 'dump') {
      const blob = await database.dumpDataDir('none');
      say({ kind: 'dumped', archive: new Uint8Array(await blob.arrayBuffer()) });
      return;
    }
    try {
      say({ kind: 'bytes', bytes: await database.execProtocolRaw(message.bytes) });
    } catch (error) {
      say({ kind: 'broken', message: String(error) });
    }
  });
});
say({ kind: 'ready' });
