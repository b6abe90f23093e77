import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { writeLargeDrawing } from '@gull-pane/demo/large-drawing';
import { configFromEnvironment } from '../src/config.ts';
import { startServer } from '../src/server.ts';
import { StartError } from '../src/start-error.ts';
import { TestServer, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

it('signs its sessions with a secret of its own, the same after a restart', async () => {
  const secretOf = async ({ running }: TestServer): Promise<string> => {
    const { rows } = await running.services.db.execute(
      sql`select value from shared_setting where name = 'signing-secret'`,
    );
    return String(rows[0]!.value);
  };
  const other = await TestServer.start();
  const own = await secretOf(server);
  expect(own.length).toBeGreaterThan(40);
  expect(await secretOf(other)).not.toBe(own);
  await other.stop();
  await server.restart();
  expect(await secretOf(server)).toBe(own);
});

describe('a restart', () => {
  it('brings back drawings, their content and their objects', async () => {
    const { drawing } = await server.import(smallPlan);
    await server.restart();
    expect(await server.json<DrawingDto>(`/api/drawings/${drawing.id}`)).toEqual(drawing);
    expect((await server.fetch(`/api/drawings/${drawing.id}/objects/2`)).status).toBe(200);
  });

  it('takes up an import that was running', async () => {
    const parts: string[] = [];
    writeLargeDrawing(120_000, 3, (text) => parts.push(text));
    const accepted = (await (await server.upload(parts.join(''))).json()) as ImportAcceptedDto;
    await server.restart();
    expect((await server.ended(accepted.jobId)).state).toBe('done');
    expect(await server.json<DrawingDto>(`/api/drawings/${accepted.drawingId}`)).toMatchObject({ status: 'ready' });
  });
});

describe('a start that can’t succeed ends with one line', () => {
  const start = (env: NodeJS.ProcessEnv): Promise<unknown> => startServer(configFromEnvironment({ PORT: '0', ...env }));

  it('when the data folder is in use', async () => {
    const error = await start({ GULL_PANE_DATA: server.dataFolder }).catch((reason: unknown) => reason);
    expect(error).toBeInstanceOf(StartError);
    expect(String(error)).toContain(`in use by process ${process.pid}`);
    expect((await server.fetch('/api/health')).status).toBe(200);
  });

  it('when the port is taken', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'gull-pane-start-'));
    const { port } = new URL(server.running.url);
    await expect(start({ GULL_PANE_DATA: folder, PORT: port })).rejects.toThrow(`Port ${port} on 127.0.0.1 is taken`);
    await rm(folder, { recursive: true });
  });

  it('when the data folder can’t be made', async () => {
    const file = join(server.dataFolder, 'a-file');
    await writeFile(file, '');
    await expect(start({ GULL_PANE_DATA: join(file, 'data') })).rejects.toThrow(/can’t be written \(ENOTDIR\)/);
    await expect(start({ GULL_PANE_DATA: '/proc/nowhere/data' })).rejects.toThrow(/can’t be written \(ENOENT\)/);
  });

  it('when a setting is no number', () => {
    expect(() => configFromEnvironment({ PORT: 'eighty' })).toThrow(/PORT must be a whole number/);
  });

  it('when settings of several servers don’t fit together', () => {
    expect(() => configFromEnvironment({ GULL_PANE_ROLES: 'web' })).toThrow(/set GULL_PANE_DATABASE_URL/);
    expect(() => configFromEnvironment({ GULL_PANE_ROLES: 'web,cook' })).toThrow(/one of web, worker, got “cook”/);
    expect(() => configFromEnvironment({ GULL_PANE_BLOBS: 'ftp://store/drawings' })).toThrow(/s3:\/\/bucket\/prefix/);
    expect(() => configFromEnvironment({ GULL_PANE_S3_ENDPOINT: 'store', GULL_PANE_BLOBS: 's3://b' })).toThrow(
      /GULL_PANE_S3_ENDPOINT must be an address/,
    );
  });
});

it('gives the data folder back on SIGTERM, after closing the database', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'gull-pane-signal-'));
  await writeFile(join(folder, 'demo-seeded'), ''); // the demo takes a minute and proves nothing here
  const run = async (): Promise<void> => {
    const child = spawn(process.execPath, ['packages/server/dist/main.js'], {
      env: { ...process.env, PORT: '0', GULL_PANE_DATA: folder },
    });
    let output = '';
    child.stdout.on('data', (chunk) => (output += String(chunk)));
    child.stderr.on('data', (chunk) => (output += String(chunk)));
    while (!output.includes('Gull Pane is ready')) {
      await Promise.race([
        once(child.stdout, 'data'),
        once(child, 'exit').then(() => Promise.reject(new Error(output))),
      ]);
    }
    child.kill('SIGTERM');
    const [code] = (await once(child, 'exit')) as [number | null];
    expect(code).toBe(0);
  };
  await run();
  await run(); // at once: nothing is locked, nothing needs repair
  await rm(folder, { recursive: true });
});
