/** Runs the embedded PostgreSQL in a thread of its own: its SQL would otherwise hold up every request. */
import { readFile } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';

const port = parentPort!;
const { folder, wasmModule, archive } = workerData as DatabaseOrder;

/** What to open. */
export interface DatabaseOrder {
  readonly folder: string;
  /** The compiled database. */
  readonly wasmModule: WebAssembly.Module;
  /** A dump to make it of; the folder is then new. */
  readonly archive?: string;
}
export type ToDatabase =
  /** Of the wire protocol; connections are numbered in the order in which they begin. */
  | { readonly kind: 'bytes'; readonly connection: number; readonly bytes: Uint8Array }
  | { readonly kind: 'dump' }
  | { readonly kind: 'close' };
export type FromDatabase =
  | { readonly kind: 'ready' }
  /** Every message of a connection gets one, empty where the protocol has no answer. */
  | { readonly kind: 'bytes'; readonly connection: number; readonly bytes: Uint8Array }
  | { readonly kind: 'failed'; readonly connection: number; readonly message: string }
  /** All of it as a tar archive. */
  | { readonly kind: 'dumped'; readonly archive: Uint8Array }
  /** It can't be opened. */
  | { readonly kind: 'broken'; readonly message: string }
  | { readonly kind: 'closed' };

const say = (message: FromDatabase): void => port.postMessage(message);

let database: PGlite;
try {
  database = await PGlite.create({
    dataDir: folder,
    pgliteWasmModule: wasmModule,
    ...(archive === undefined ? {} : { loadDataDir: new Blob([await readFile(archive)]) }),
  });
} catch (error) {
  say({ kind: 'broken', message: String(error) });
  throw error;
}
/** Ends a statement whose other messages never came (PostgreSQL's manual, "Message Formats"). */
const SYNC = new Uint8Array([0x53, 0, 0, 0, 4]);
/** The connection whose session it is: the latest. */
let current = 0;

async function answer(connection: number, bytes: Uint8Array): Promise<Uint8Array> {
  if (connection > current) {
    current = connection;
    // all connections share one session: what the last one left open would be this one's
    await database.execProtocolRaw(SYNC);
    if (database.isInTransaction()) await database.exec('rollback');
  }
  return database.execProtocolRaw(bytes);
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
    const { connection } = message;
    try {
      say({ kind: 'bytes', connection, bytes: await answer(connection, message.bytes) });
    } catch (error) {
      say({ kind: 'failed', connection, message: String(error) });
    }
  });
});
say({ kind: 'ready' });
