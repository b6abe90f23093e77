import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import type { Worker } from 'node:worker_threads';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import { beginDatabase } from './empty-database.ts';
import { bringUpToDate } from './migrations.ts';
import { startThread } from '../threads/start-thread.ts';
import type { DatabaseOrder, FromDatabase, ToDatabase } from './database-thread.ts';
import * as schema from './schema.ts';
import { LocalSignals, type Signals } from './signals.ts';
import { ThreadStream } from './thread-stream.ts';

export type Database = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export interface OpenDatabase {
  readonly db: Database;
  readonly signals: Signals;
  /** Whether the database answers, or has been at one statement for no longer than it may; asks nothing itself. */
  isAnswering(): boolean;
  /** All of it at this moment, as a tar archive. */
  dump(): Promise<Uint8Array>;
  close(): Promise<void>;
}

/** A statement that takes longer means that the database hangs; what waits behind it is refused, ms. */
const LONGEST_STATEMENT_MS = 60_000;

/** The compiled database, for all that this process opens: compiling it takes longer than all else that opening needs. */
let compiled: Promise<WebAssembly.Module> | undefined;

async function compile(): Promise<WebAssembly.Module> {
  return WebAssembly.compile(await readFile(new URL('pglite.wasm', import.meta.resolve('@electric-sql/pglite'))));
}

/**
 * Opens the embedded database in its thread and brings its schema up to date. One connection: statements queue up, a
 * transaction holds the others back until it ends.
 * @param folder its own folder below the data folder
 * @param archive a dump to make it of; the folder is then new
 * @throws StartError if it was made by a newer version
 */
export async function openDatabase(folder: string, archive?: string): Promise<OpenDatabase> {
  if (archive === undefined) await beginDatabase(folder);
  const wasmModule = await (compiled ??= compile());
  const order: DatabaseOrder = { folder, wasmModule, ...(archive === undefined ? {} : { archive }) };
  const thread = startThread('database-thread', order);
  const [first] = (await Promise.race([
    once(thread, 'message'),
    once(thread, 'error').then(([error]) => Promise.reject(error as Error)),
  ])) as [FromDatabase];
  if (first.kind !== 'ready') throw new Error(`database: ${first.kind === 'broken' ? first.message : first.kind}`);
  let heardAtMs = performance.now();
  const heard = (): void => void (heardAtMs = performance.now());
  let last: ThreadStream | null = null;
  const pool = new Pool({
    max: 1,
    idleTimeoutMillis: 0,
    connectionTimeoutMillis: LONGEST_STATEMENT_MS,
    user: 'postgres',
    database: 'postgres',
    stream: () => {
      heard();
      return (last = new ThreadStream(thread, last, heard));
    },
  });
  pool.on('acquire', heard);
  pool.on('error', (error) => console.error(`database connection: ${error.message}`));
  const db = drizzle(pool, { schema, casing: 'snake_case' });
  const close = async (): Promise<void> => {
    await pool.end();
    const closed = once(thread, 'exit');
    const request: ToDatabase = { kind: 'close' };
    thread.postMessage(request);
    await closed;
  };
  try {
    await bringUpToDate(pool, db);
  } catch (error) {
    await close();
    throw error;
  }
  return {
    db,
    signals: new LocalSignals(),
    isAnswering: () => pool.idleCount === pool.totalCount || performance.now() - heardAtMs < LONGEST_STATEMENT_MS,
    dump: () => dumpOf(thread),
    close,
  };
}

async function dumpOf(thread: Worker): Promise<Uint8Array> {
  const dumped = new Promise<Uint8Array>((resolve) => {
    const take = (message: FromDatabase): void => {
      if (message.kind !== 'dumped') return;
      thread.off('message', take);
      resolve(message.archive);
    };
    thread.on('message', take);
  });
  const request: ToDatabase = { kind: 'dump' };
  thread.postMessage(request);
  return dumped;
}
