import { existsSync, readFileSync } from 'node:fs';
import type { NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import type { Pool, PoolClient } from 'pg';
import { StartError } from '../start-error.ts';
import type * as schema from './schema.ts';

/** Where the migrations lie: beside the built server, or at the package's root while running from source. */
function migrationsFolder(): string {
  const candidates = ['../drizzle/', '../../drizzle/'].map((path) => new URL(path, import.meta.url).pathname);
  const found = candidates.find((path) => existsSync(`${path}meta/_journal.json`));
  if (found === undefined) throw new Error(`database: migrations are missing, looked in ${candidates.join(' and ')}`);
  return found;
}

/**
 * Brings the schema of a database up to date.
 * @param connection the same that `db` works with
 * @throws StartError if it was made by a newer version
 */
export async function bringUpToDate(connection: Pool | PoolClient, db: NodePgDatabase<typeof schema>): Promise<void> {
  await refuseNewer(connection);
  await migrate(db, { migrationsFolder: migrationsFolder() });
}

/** @throws StartError if steps were taken with the database that this version doesn't know */
async function refuseNewer(pool: Pool | PoolClient): Promise<void> {
  const there = await pool.query<{ there: boolean }>(
    `select to_regclass('drizzle.__drizzle_migrations') is not null as there`,
  );
  if (!there.rows[0]?.there) return;
  const { rows } = await pool.query<{ last: string | null }>(
    'select max(created_at) as last from drizzle.__drizzle_migrations',
  );
  const journal = JSON.parse(readFileSync(`${migrationsFolder()}meta/_journal.json`, 'utf8')) as {
    readonly entries: readonly { readonly when: number }[];
  };
  const newest = Math.max(...journal.entries.map(({ when }) => when));
  if (Number(rows[0]?.last ?? 0) > newest)
    throw new StartError(
      'The data was made by a newer Gull Pane: bring this one up to date, or name other data in GULL_PANE_DATA.',
    );
}
