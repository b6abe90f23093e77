import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { expect, it } from 'vitest';

const folder = join(import.meta.dirname, '../drizzle');
const drawingId = '0a3c5b1e-7d54-4f0e-9d0b-4b8f5d9b1c11';

async function migrate(db: PGlite, names: readonly string[]): Promise<void> {
  for (const name of names)
    for (const statement of (await readFile(join(folder, name), 'utf8')).split('--> statement-breakpoint'))
      await db.exec(statement);
}

/** A row with just what a table can't do without. */
async function addBare(db: PGlite, table: string, told: Readonly<Record<string, string>>): Promise<void> {
  const { rows } = await db.query<{ name: string; type: string }>(
    `select column_name as name, data_type as type from information_schema.columns
     where table_name = $1 and is_nullable = 'NO' and column_default is null`,
    [table],
  );
  const plain: Readonly<Record<string, string>> = { jsonb: '[]', text: 'ready', integer: '0' };
  const values = rows.map(({ name, type }) => told[name] ?? plain[type] ?? '0');
  const places = rows.map((_, k) => `$${k + 1}`).join(', ');
  await db.query(`insert into ${table} (${rows.map(({ name }) => name).join(', ')}) values (${places})`, values);
}

it('a database of an older version keeps its view cards, whose pictures move to a place of their own', async () => {
  const all = (await readdir(folder)).filter((name) => name.endsWith('.sql')).sort();
  const first = all.indexOf('0006_arrangements.sql');
  const db = new PGlite();
  await migrate(db, all.slice(0, first));
  await addBare(db, 'drawing', { id: drawingId });
  const picture = 'data:image/webp;base64,AAAA';
  const contents = [{ name: 'Old', picture, shows: { clips: [] } }, { name: 'Bare' }];
  for (const [position, content] of contents.entries())
    await db.query('insert into view_card (id, drawing_id, position, content) values (gen_random_uuid(), $1, $2, $3)', [
      drawingId,
      position,
      JSON.stringify(content),
    ]);
  await migrate(db, all.slice(first));
  const { rows } = await db.query('select content, picture, version from view_card order by position');
  expect(rows).toEqual([
    { content: { name: 'Old', shows: { clips: [] } }, picture, version: 1 },
    { content: { name: 'Bare' }, picture: '', version: 1 },
  ]);
  await db.close();
});
