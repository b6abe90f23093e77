/** Seen from outside: health, readiness, metrics, logs, and an orderly end. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { configFromEnvironment } from '../src/config.ts';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

it('a server is ready once database, files and imports are there', async () => {
  expect(await server.json('/api/ready')).toEqual({ status: 'ready', database: true, files: true, imports: true });
});

describe('metrics', () => {
  const told = async (): Promise<Map<string, number>> => {
    const answer = await server.fetch('/api/metrics');
    expect(answer.headers.get('content-type')).toMatch(/^text\/plain; version=0\.0\.4/);
    const lines = (await answer.text()).split('\n').filter((line) => line !== '' && !line.startsWith('#'));
    return new Map(
      lines.map((line) => [line.slice(0, line.lastIndexOf(' ')), Number(line.slice(line.lastIndexOf(' ') + 1))]),
    );
  };
  const outcome = (format: string, how: string): string =>
    `gull_pane_imports_total{format="${format}",outcome="${how}"}`;

  it('count requests by route, imports by format and outcome, tiles, memory', async () => {
    const { drawing } = await server.import(smallPlan);
    await server.import('<svg xmlns="http://www.w3.org/2000/svg"><g>', 'Cut off.svg');
    await server.import('{"type": "FeatureCollection", "features": 3}', 'Wrong.geojson');
    await server.fetch(`/api/drawings/${drawing.id}`);
    await server.fetch(`/api/drawings/${drawing.id}/tiles/r1/0.glb`);
    await server.fetch('/api/nowhere/42');
    // a request counts once its answer has been sent to the end, which may be after the next one is answered
    await expect.poll(async () => (await told()).get('gull_pane_tiles_total')).toBe(1);
    const all = await told();
    expect(all.get(outcome('svg', 'done'))).toBe(1);
    expect(all.get(outcome('svg', 'failed'))).toBe(1);
    expect(all.get(outcome('geojson', 'failed'))).toBe(1);
    const one = (route: string, status: number): number | undefined =>
      all.get(`gull_pane_request_seconds_count{route="${route}",method="GET",status="${status}"}`);
    expect(one('/api/drawings/:id', 200)).toBeGreaterThanOrEqual(1);
    expect([...all.keys()].some((name) => name.includes('/api/nowhere'))).toBe(false);
    expect(all.get('gull_pane_import_jobs{state="queued"}')).toBe(0);
    expect(all.get('gull_pane_process_resident_memory_bytes')).toBeGreaterThan(1e7);
  });
});

it('settings that make no sense are refused with what is possible', () => {
  expect(() => configFromEnvironment({ GULL_PANE_LOG: 'loud' })).toThrow('GULL_PANE_LOG must be one of off, error');
  expect(() => configFromEnvironment({ GULL_PANE_TRUST_PROXY: '1' })).toThrow('one of no, yes');
});

it('a token isn’t needed to ask whether it is ready, but for what it has done', async () => {
  const guarded = await TestServer.start({ GULL_PANE_TOKEN: 'a-secret-of-many-letters' });
  try {
    expect((await guarded.fetch('/api/ready')).status).toBe(200);
    expect((await guarded.fetch('/api/metrics')).status).toBe(401);
  } finally {
    await guarded.stop();
  }
});

it('while it ends it says so, finishes what it has begun, and writes its log in lines of JSON', async () => {
  const data = await mkdtemp(join(tmpdir(), 'gull-pane-api-'));
  await writeFile(join(data, 'demo-seeded'), ''); // the demo takes a minute and proves nothing here
  const main = join(process.env.GULL_PANE_BUILT_THREADS!, 'main.js');
  const env = {
    ...process.env,
    PORT: '0',
    GULL_PANE_DATA: data,
    GULL_PANE_LOG: 'info',
    GULL_PANE_DRAIN_SECONDS: '600',
  };
  const child = spawn(process.execPath, [main], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  try {
    let said = '';
    const url = await new Promise<string>((resolve) => {
      child.stdout.on('data', (chunk) => {
        said += String(chunk);
        const found = /Gull Pane is ready: (\S+)/.exec(said);
        if (found) resolve(found[1]!);
      });
    });
    expect((await fetch(`${url}api/ready`)).status).toBe(200);
    const ended = once(child, 'exit');
    child.kill('SIGTERM');
    await expect.poll(async () => (await fetch(`${url}api/ready`)).status, { interval: 20 }).toBe(503);
    expect((await problemOf(await fetch(`${url}api/ready`))).detail).toContain('about to stop');
    // it still answers
    expect((await fetch(`${url}api/drawings?secret=1`)).status).toBe(200);
    child.kill('SIGTERM'); // a second signal ends the wait
    expect(await ended).toEqual([0, null]);
    const lines = said.split('\n').filter((line) => line.startsWith('{'));
    const entries = lines.map((line) => JSON.parse(line) as { reqId?: string; msg?: string });
    expect(
      entries.filter(({ reqId, msg }) => reqId !== undefined && msg === 'request completed').length,
    ).toBeGreaterThan(2);
  } finally {
    child.kill('SIGKILL');
    await rm(data, { recursive: true, force: true });
  }
});
