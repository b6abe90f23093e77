/** The embedded database answers whatever happens to its connection. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import type { Pool, PoolClient } from 'pg';
import { afterAll, afterEach, beforeAll, expect, it, vi } from 'vitest';
import { openDatabase, type OpenDatabase } from '../src/db/database.ts';

let folder: string;
let database: OpenDatabase;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'gull-pane-database-'));
  database = await openDatabase(join(folder, 'database'));
});
/** A connection of its own, as transactions have. */
const connect = (): Promise<PoolClient> => (database.db as unknown as { readonly $client: Pool }).$client.connect();
afterEach(() => void vi.restoreAllMocks());
afterAll(async () => {
  await database.close();
  await rm(folder, { recursive: true });
});

it('statements that fail, alone and in transactions, leave those beside them their answers', async () => {
  const { db } = database;
  const ask = async (k: number): Promise<number> => {
    const { rows } = await db.execute<{ k: number }>(sql`select ${k}::int as k`);
    return rows[0]!.k;
  };
  for (let round = 0; round < 50; round++) {
    const results = await Promise.allSettled([
      ask(round),
      db.execute(sql`select ${'0.5'}::bigint`), // the client gives up its connection after it
      ask(round + 1),
      db.transaction((tx) => tx.execute(sql`select 1 / 0`)),
      ask(round + 2),
    ]);
    expect(results.map(({ status }) => status)).toEqual([
      'fulfilled',
      'rejected',
      'fulfilled',
      'rejected',
      'fulfilled',
    ]);
    const answers = results.map((result) => (result.status === 'fulfilled' ? result.value : null));
    expect([answers[0], answers[2], answers[4]]).toEqual([round, round + 1, round + 2]);
  }
});

it('a transaction whose connection is given up is rolled back', async () => {
  const { db } = database;
  const client = await connect();
  await client.query('begin');
  await client.query('create table half_done (id integer)');
  client.release(new Error('given up'));
  const { rows } = await db.execute<{ found: string | null }>(sql`select to_regclass('half_done')::text as found`);
  expect(rows).toEqual([{ found: null }]);
});

it('counts as not answering once a connection has been held for a minute without a word', async () => {
  const client = await connect();
  await client.query('select 1');
  const now = performance.now.bind(performance);
  let laterMs = 0;
  vi.spyOn(performance, 'now').mockImplementation(() => now() + laterMs);
  expect(database.isAnswering()).toBe(true);
  laterMs = 61_000;
  expect(database.isAnswering()).toBe(false);
  await client.query('select 1'); // a long transaction of short statements is no hang
  expect(database.isAnswering()).toBe(true);
  client.release();
  laterMs = 3600_000;
  expect(database.isAnswering()).toBe(true);
});
