import { drizzle } from 'drizzle-orm/node-postgres';
import { Client, Pool, type PoolClient } from 'pg';
import { StartError } from '../start-error.ts';
import type { OpenDatabase } from './database.ts';
import { bringUpToDate } from './migrations.ts';
import * as schema from './schema.ts';
import { channels, LocalSignals, type Channel, type Signals } from './signals.ts';

/** Connections of one server: requests, imports and the job queue share them. */
const MOST_CONNECTIONS = 10;
/** The database is asked so often whether it is there; it counts as gone when it hasn't answered for so long, ms. */
const [ASK_EVERY_MS, LONGEST_SILENCE_MS] = [5_000, 20_000] as const;
/** Servers that start at the same time bring the schema up to date one after the other: they wait for this lock. */
const MIGRATION_LOCK = 0x6775_6c6c;
/** The channel of notifications between servers. */
const CALLS = 'gull_pane';

/** What is said where something is for the embedded database alone. */
export const notEmbedded = (): StartError =>
  new StartError(
    'What this server keeps is not all in its data folder: back up the database with its own tools, then the files (docs/operating.md).',
  );

/**
 * Opens a database of a PostgreSQL server and brings its schema up to date.
 * @param url as in RFC 3986, with the scheme `postgresql`
 * @throws StartError if it can't be reached or was made by a newer version
 */
export async function openPostgres(url: string): Promise<OpenDatabase> {
  const pool = new Pool({ connectionString: url, max: MOST_CONNECTIONS, connectionTimeoutMillis: 10_000 });
  // a connection that breaks is replaced; a query that was using it fails by itself
  pool.on('error', (error) => console.error(`database connection: ${error.message}`));
  pool.on('connect', (client) => client.on('error', () => undefined));
  const watch = new DatabaseWatch(url, pool);
  try {
    await watch.begin();
    const connection = await pool.connect();
    try {
      await underLock(connection, () =>
        bringUpToDate(connection, drizzle(connection, { schema, casing: 'snake_case' })),
      );
    } finally {
      connection.release();
    }
  } catch (error) {
    await watch.end();
    await pool.end();
    throw error instanceof StartError ? error : new StartError(reachProblem(url, error));
  }
  return {
    db: drizzle(pool, { schema, casing: 'snake_case' }),
    signals: watch,
    isAnswering: () => watch.isAnswering,
    dump: () => Promise.reject(notEmbedded()),
    close: async () => {
      await watch.end();
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
 * A connection of its own for notifications from other servers and for checking whether the database answers: it never waits
 * behind requests.
 */
class DatabaseWatch implements Signals {
  readonly #local = new LocalSignals();
  #client: Client | null = null;
  #answeredAtMs = performance.now();
  #isAsking = false;
  #timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly url: string,
    private readonly pool: Pool,
  ) {}

  get isAnswering(): boolean {
    return performance.now() - this.#answeredAtMs < LONGEST_SILENCE_MS;
  }

  /** @throws what the database says if it can't be reached */
  async begin(): Promise<void> {
    await this.#connect();
    this.#timer = setInterval(() => void this.#ask(), ASK_EVERY_MS);
  }

  async end(): Promise<void> {
    clearInterval(this.#timer);
    const client = this.#client;
    this.#client = null;
    await client?.end().catch(() => undefined);
  }

  send(channel: Channel): void {
    // at once for this server, also while the connection is broken; a second notification does no harm
    this.#local.send(channel);
    this.pool.query('select pg_notify($1, $2)', [CALLS, channel]).catch(() => undefined);
  }

  listen(channel: Channel, take: () => void): () => void {
    return this.#local.listen(channel, take);
  }

  async #ask(): Promise<void> {
    if (this.#isAsking) return;
    this.#isAsking = true;
    try {
      if (this.#client) await this.#client.query('select 1');
      else await this.#connect();
      this.#answeredAtMs = performance.now();
    } catch {
      this.#drop();
    } finally {
      this.#isAsking = false;
    }
  }

  async #connect(): Promise<void> {
    const client = new Client({ connectionString: this.url, connectionTimeoutMillis: 2 * ASK_EVERY_MS });
    client.on('error', () => this.#drop());
    client.on('notification', ({ payload }) => {
      const channel = channels.find((one) => one === payload);
      if (channel) this.#local.send(channel);
    });
    await client.connect();
    this.#client = client;
    await client.query(`listen ${CALLS}`);
    // some may have been missed while there was no connection
    for (const channel of channels) this.#local.send(channel);
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
