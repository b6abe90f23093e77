/** Everything in one file and back, while the server runs or not. */
import { existsSync } from 'node:fs';
import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { runTool } from '../src/backup/tool.ts';
import { writeBackup } from '../src/backup/write-backup.ts';
import { openDatabase } from '../src/db/database.ts';
import { StartError } from '../src/start-error.ts';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let work: string;
beforeAll(async () => {
  work = await mkdtemp(join(tmpdir(), 'gull-pane-backups-'));
});
afterAll(() => rm(work, { recursive: true, force: true }));

/** What the person who runs the tool reads; a failure ends with a code. */
async function useTool(
  what: string,
  file: string,
  data: string,
): Promise<{ readonly code: number; readonly said: string }> {
  try {
    return { code: 0, said: await runTool(what, file, { GULL_PANE_DATA: data, INIT_CWD: work }) };
  } catch (error) {
    if (!(error instanceof StartError)) throw error;
    return { code: 1, said: error.message };
  }
}
const drawingsOf = (server: TestServer): Promise<DrawingDto[]> => server.json('/api/drawings');
const names = async (server: TestServer): Promise<string[]> =>
  (await drawingsOf(server)).map(({ name }) => name).sort();

describe('while the server runs', () => {
  let server: TestServer;
  let file: string;
  beforeAll(async () => {
    server = await TestServer.start();
    file = join(work, 'running.tar');
  });
  afterAll(() => server.stop());

  it('all of it is written to one file, and comes back from there; what was there before is kept aside', async () => {
    const { drawing } = await server.import(smallPlan, 'Chamber.svg');
    expect(await useTool('backup', 'running.tar', server.dataFolder)).toMatchObject({ code: 0 });
    await server.fetch(`/api/drawings/${drawing.id}`, { method: 'DELETE' });
    await server.import(smallPlan, 'Later.svg');
    expect(await names(server)).toEqual(['Later']);

    const { code, said } = await useTool('restore', 'running.tar', server.dataFolder);
    expect([code, said]).toEqual([0, expect.stringMatching(/^Restored 1 drawings as of .*before-restore/)]);
    expect(await drawingsOf(server)).toEqual([drawing]);
    const object = await server.fetch(`/api/drawings/${drawing.id}/objects/0`);
    expect(object.status).toBe(200);
    expect((await server.fetch(`/api/drawings/${drawing.id}/tiles/r1/0.glb`)).status).toBe(200);
    expect(existsSync(join(server.dataFolder, 'before-restore', 'drawings'))).toBe(true);
    // and the server goes on as it should
    expect((await server.import(smallPlan, 'After.svg')).job.state).toBe('done');
    expect(await names(server)).toEqual(['After', 'Chamber']);
  });

  it.each([
    ['cut off', async () => (await readFile(file)).subarray(0, 40_000), /damaged/],
    ['no archive', () => Promise.resolve(Buffer.from('nothing of the kind')), /damaged/],
    ['empty', () => Promise.resolve(Buffer.alloc(0)), /damaged: it has no manifest/],
  ])('a backup that is %s is refused, and nothing changes', async (_, make, told) => {
    const before = await drawingsOf(server);
    await writeFile(join(work, 'bad.tar'), await make());
    const { code, said } = await useTool('restore', 'bad.tar', server.dataFolder);
    expect(code).toBe(1);
    expect(said).toMatch(told);
    expect(said.split('\n')).toHaveLength(1);
    expect(await drawingsOf(server)).toEqual(before);
  });

  it('one that was made by a newer version is refused with a clear line', async () => {
    await server.running.services.db.execute(
      sql`insert into drizzle.__drizzle_migrations (hash, created_at) values ('of the future', 9999999999999)`,
    );
    await useTool('backup', 'newer.tar', server.dataFolder);
    const other = await TestServer.start();
    const { code, said } = await useTool('restore', 'newer.tar', other.dataFolder);
    expect([code, said]).toEqual([1, expect.stringMatching(/made by a newer Gull Pane/)]);
    expect(await drawingsOf(other)).toEqual([]);
    await other.stop();
  });

  it('what isn’t a file is said', async () => {
    expect(await useTool('restore', 'nowhere.tar', server.dataFolder)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/There is no file .*nowhere.tar/) as string,
    });
    const response = await server.fetch('/api/restore', { method: 'POST' });
    expect((await problemOf(response)).status).toBe(400);
  });
});

it('a backup that its reader gives up, at any point, ends quietly: the server goes on', async () => {
  const server = await TestServer.start();
  await server.import(smallPlan, 'Chamber.svg');
  const { db, dump, folder, removed } = server.running.services;
  for (const pieces of [0, 1, 3, 30]) {
    const archive = await writeBackup({ db, dump, folder, removed });
    // as a compressor does whose own reader has left; an error that nobody hears would end the process
    archive.on('error', () => undefined);
    const closed = new Promise((resolve) => archive.once('close', resolve));
    if (pieces > 0)
      await new Promise<void>((resolve) => {
        let received = 0;
        archive.once('end', resolve).on('data', () => {
          if (++received < pieces) return;
          archive.pause();
          resolve();
        });
      });
    archive.destroy(new Error('The reader has left.'));
    await closed;
  }
  for (let k = 0; k < 3; k++) {
    const call = new AbortController();
    const answer = await server.fetch('/api/backup', { signal: call.signal });
    await answer.body!.getReader().read();
    call.abort();
  }
  expect(await server.json('/api/health')).toEqual({ status: 'ok' });
  expect(await useTool('backup', 'after.tar', server.dataFolder)).toMatchObject({ code: 0 });
  await server.stop();
});

it('a backup that is written while drawings change and go is whole', async () => {
  const server = await TestServer.start({ GULL_PANE_KEPT_REVISIONS: '1' });
  const restored = await TestServer.start();
  try {
    const { drawing } = await server.import(smallPlan, 'Changing.svg');
    let isChanging = true;
    const change = async (): Promise<void> => {
      for (let k = 0; isChanging; k++) {
        const sent = await server.upload(smallPlan, 'Next.svg', `/api/drawings/${drawing.id}/source`, 'PUT');
        await server.ended(((await sent.json()) as { jobId: string }).jobId);
        const other = await server.import(smallPlan, `Passing ${k}.svg`);
        await server.fetch(`/api/drawings/${other.drawing.id}`, { method: 'DELETE' });
      }
    };
    const changing = change();
    for (let k = 0; k < 4; k++) {
      const name = `changing-${k}.tar`;
      expect(await useTool('backup', name, server.dataFolder)).toMatchObject({ code: 0 });
      expect(await useTool('restore', name, restored.dataFolder)).toMatchObject({ code: 0 });
      const there = (await drawingsOf(restored)).filter(({ revision }) => revision > 0);
      expect(there.length).toBeGreaterThan(0);
      for (const { id, revision } of there)
        for (const path of ['tiles/tileset.json', `tiles/r${revision}/objects.index`, 'objects/1', 'picture.png'])
          expect((await restored.fetch(`/api/drawings/${id}/${path}`)).status, path).toBe(200);
    }
    isChanging = false;
    await changing;
  } finally {
    await server.stop();
    await restored.stop();
  }
});

it('while no server runs, the same', async () => {
  const server = await TestServer.start();
  const { drawing } = await server.import(smallPlan, 'Chamber.svg');
  await server.running.stop();
  expect(await useTool('backup', 'still.tar', server.dataFolder)).toMatchObject({ code: 0 });
  const elsewhere = join(work, 'elsewhere');
  expect(await useTool('restore', 'still.tar', elsewhere)).toMatchObject({ code: 0 });
  await cp(elsewhere, server.dataFolder, { recursive: true, force: true });
  await server.restart();
  expect(await drawingsOf(server)).toEqual([drawing]);
  await server.stop();
});

describe('a database', () => {
  const migrations = join(import.meta.dirname, '../drizzle');

  it('that an older version made is brought up to date when it is opened', async () => {
    const older = join(work, 'older-migrations');
    await cp(migrations, older, { recursive: true });
    const journal = JSON.parse(await readFile(join(older, 'meta/_journal.json'), 'utf8')) as {
      entries: { tag: string }[];
    };
    const entries = journal.entries.slice(0, 5);
    await writeFile(join(older, 'meta/_journal.json'), JSON.stringify({ ...journal, entries }));
    const folder = join(work, 'older-database');
    const made = await PGlite.create(folder);
    await migrate(drizzle(made), { migrationsFolder: older });
    await made.close();
    const opened = await openDatabase(folder);
    const { rows } = await opened.db.execute(`select count(*)::int as count from tour`);
    expect(rows).toEqual([{ count: 0 }]);
    await opened.close();
  });

  it('that a newer version made isn’t opened, and stays as it is', async () => {
    const folder = join(work, 'newer-database');
    const opened = await openDatabase(folder);
    await opened.db.execute(`insert into drizzle.__drizzle_migrations (hash, created_at) values ('x', 9999999999999)`);
    await opened.close();
    await expect(openDatabase(folder)).rejects.toThrow(/made by a newer Gull Pane/);
    await expect(openDatabase(folder)).rejects.toThrow(/made by a newer Gull Pane/);
  });
});
