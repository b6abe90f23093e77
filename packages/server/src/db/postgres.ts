import { drizzle } from 'drizzle-orm/node-postgres';
import { Client, Pool, type PoolClient } from 'pg';
import { StartError } from '../start-error.ts';
import type { OpenDatabase } from './database.ts';
import { bringUpToDate } from './migrations.ts';
import * as schema from './schema.ts';

/** Connections of one server: requests, imports and the job queue share them. */
const MOST_CONNECTIONS = 10;
/** The database is asked so often whether it is there; it counts as gone when it hasn't answered for so long, ms. */
const [ASK_EVERY_MS, LONGEST_SILENCE_MS] = [5_000, 20_000] as const;
/** Servers that start at the same time bring the schema up to date one after the other: they wait for the first lock. */
const [MIGRATION_LOCK, SERVER_LOCK] = [0x6775_6c6c, 0x6775_6c6d] as const;
/** The database takes a moment to notice that the server before has ended, ms. */
const PATIENCE_MS = 5_000;

/** What is said where something is for the embedded database alone. */
export const notEmbedded = (): StartError =>
  new StartError(
    'The database is on a PostgreSQL server: back it up and restore it with that server’s tools, the data folder with it.',
  );

/**
 * Opens a database of a PostgreSQL server and brings its schema up to date.
 * @param url as in RFC 3986, with the scheme `postgresql`
 * @throws StartError if it can't be reached, was made by a newer version, or another server works with it
 */
export async function openPostgres(url: string): Promise<OpenDatabase> {
  const holder = new DatabaseHolder(url);
  const pool = new Pool({ connectionString: url, max: MOST_CONNECTIONS, connectionTimeoutMillis: 10_000 });
  // a connection that breaks while nobody uses it is replaced
  pool.on('error', (error) => console.error(`database connection: ${error.message}`));
  try {
    await holder.take();
    const connection = await pool.connect();
    try {
      await underLock(connection, () =>
        bringUpToDate(connection, drizzle(connection, { schema, casing: 'snake_case' })),
      );
    } finally {
      connection.release();
    }
  } catch (error) {
    await holder.release();
    await pool.end();
    throw error instanceof StartError ? error : new StartError(reachProblem(url, error));
  }
  return {
    db: drizzle(pool, { schema, casing: 'snake_case' }),
    query: async (text, values) => {
      const { rows, rowCount } = await pool.query(text, values);
      return { rows: rows as never[], rowCount: rowCount ?? 0 };
    },
    isAnswering: () => holder.isAnswering,
    dump: () => Promise.reject(notEmbedded()),
    close: async () => {
      await holder.release();
      await pool.end();
    },
  };
}

async function underLock(connection: PoolClient, work: () => Promise<void>): Promise<void> {
  await connection.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
  try {
    await work();
  } finally {
    await connection.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]);
  }
}

/**
 * Holds the database for one server, by a lock of a connection of its own, and asks by it whether the database is there:
 * that never waits behind others.
 */
class DatabaseHolder {
  #client: Client | null = null;
  #answeredAt = performance.now();
  #isAsking = false;
  #timer: NodeJS.Timeout | undefined;

  constructor(private readonly url: string) {}

  get isAnswering(): boolean {
    return performance.now() - this.#answeredAt < LONGEST_SILENCE_MS;
  }

  /** @throws StartError if another server holds it; what the database says if it can't be reached */
  async take(): Promise<void> {
    const beganMs = performance.now();
    while (!(await this.#hold())) {
      if (performance.now() - beganMs > PATIENCE_MS)
        throw new StartError(
          'Another Gull Pane works with this database: one server can. Name another one in GULL_PANE_DATABASE_URL.',
        );
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    this.#timer = setInterval(() => void this.#ask(), ASK_EVERY_MS);
  }

  async release(): Promise<void> {
    clearInterval(this.#timer);
    const client = this.#client;
    this.#client = null;
    await client?.end().catch(() => undefined);
  }

  async #ask(): Promise<void> {
    if (this.#isAsking) return;
    this.#isAsking = true;
    try {
      if (this.#client) await this.#client.query('select 1');
      else if (!(await this.#hold())) return; // another server took it while the connection was broken
      this.#answeredAt = performance.now();
    } catch {
      this.#drop();
    } finally {
      this.#isAsking = false;
    }
  }

  async #hold(): Promise<boolean> {
    if (!this.#client) {
      const client = new Client({ connectionString: this.url, connectionTimeoutMillis: 2 * ASK_EVERY_MS });
      client.on('error', () => this.#drop());
      await client.connect();
      this.#client = client;
    }
    const { rows } = await this.#client.query<{ is_held: boolean }>('select pg_try_advisory_lock($1) as is_held', [
      SERVER_LOCK,
    ]);
    return rows[0]?.is_held === true;
  }

  #drop(): void {
    this.#client?.end().catch(() => undefined);
    this.#client = null;
  }
}

/** Without the password that the address may hold. */
function reachProblem(url: string, error: unknown): string {
  const { hostname, port, pathname } = new URL(url);
  const where = `${pathname.slice(1) || 'its usual database'} on ${hostname || 'this machine'}${port === '' ? '' : `:${port}`}`;
  const why = error instanceof Error ? error.message : String(error);
  return `The database ${where} can’t be used: ${why}. Check GULL_PANE_DATABASE_URL.`;
}
