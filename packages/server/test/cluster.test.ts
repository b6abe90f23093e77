/**
 * An office as `compose.yaml` lays it out, without containers: two web servers behind a proxy, two workers, PostgreSQL, an object
 * store. People look and mark, files come in, and everything is killed in turn. `npm run cluster` takes longer and tells figures.
 */
import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { afterEach, expect, it } from 'vitest';
import { writeLargeDrawing } from '@gull-pane/demo/large-drawing';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import type { MarkDto } from '@gull-pane/protocol/marks';
import { crowd, hashOf, type Known } from './cluster/crowd.ts';
import { ReverseProxy } from './cluster/reverse-proxy.ts';
import { ServerProcess } from './cluster/server-process.ts';
import { smallPlan } from './running-server.ts';
import { S3StandIn } from './stand-ins/s3-stand-in.ts';
import { TestDatabase } from './test-database.ts';

const PEOPLE = 200;
const IMPORTS = 20;
/** How long people work, s. */
const SECONDS = Number(process.env.GULL_PANE_CLUSTER_SECONDS ?? 45);

const ends: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  for (let end = ends.pop(); end; end = ends.pop()) await end();
});

const plan = (segments: number, seed: number): string => {
  const parts: string[] = [];
  writeLargeDrawing(segments, seed, (text) => parts.push(text));
  return parts.join('');
};

it.skipIf(process.env.GULL_PANE_TEST_POSTGRES === undefined)(
  'an office keeps working while its parts are killed: no acknowledged edit is lost, every import ends, no answer is wrong',
  async () => {
    const database = (await TestDatabase.create())!;
    ends.push(() => database.drop());
    const store = await S3StandIn.start();
    ends.push(() => store.stop());
    const env = { ...database.env, ...store.env('office/'), GULL_PANE_TRUST_PROXY: 'yes' };
    const start = async (name: string, roles: string): Promise<ServerProcess> => {
      const server = await ServerProcess.start(name, { ...env, GULL_PANE_ROLES: roles });
      ends.push(() => server.stop());
      return server;
    };
    // the demo is of no use here: counted as brought in before the first web server starts
    const workers = [await start('worker-1', 'worker'), await start('worker-2', 'worker')];
    await ask(database, `insert into shared_setting (name, value) values ('demo-seeded', 'not wanted')`);
    const webs = [await start('web-1', 'web'), await start('web-2', 'web')];
    const proxy = await ReverseProxy.start(() => webs.map(({ url }) => url));
    ends.push(() => proxy.stop());

    const upload = async (content: string, key: string = randomUUID()): Promise<ImportAcceptedDto> => {
      for (;;) {
        const body = new FormData();
        body.append('file', new File([content], 'Plan.svg'));
        const headers = { 'idempotency-key': key };
        const answer = await fetch(`${proxy.url}api/drawings`, { method: 'POST', headers, body }).catch(() => null);
        if (answer?.status === 202) return (await answer.json()) as ImportAcceptedDto;
        expect([502, 503, 504, undefined]).toContain(answer?.status);
        await new Promise((resolve) => setTimeout(resolve, 300));
      }
    };
    // asked again while no server is there to answer, as the page does
    const json = async <T>(path: string): Promise<T> => {
      for (;;) {
        const answer = await fetch(new URL(path, proxy.url)).catch(() => null);
        const content = answer?.ok === true ? ((await answer.json().catch(() => null)) as T | null) : null;
        if (content !== null) return content;
        expect([502, 503, 504, 200, undefined]).toContain(answer?.status);
        await new Promise((resolve) => setTimeout(resolve, 300));
      }
    };
    const ended = async (jobId: string): Promise<JobDto> => {
      for (;;) {
        const job = await json<JobDto>(`/api/jobs/${jobId}`);
        if (hasEnded(job.state)) return job;
        await new Promise((resolve) => setTimeout(resolve, 500));
      }
    };

    // what people look at
    const known: Known[] = [];
    for (const content of [smallPlan, plan(3_000, 1), plan(12_000, 2)]) {
      const { drawingId, jobId } = await upload(content);
      expect((await ended(jobId)).state).toBe('done');
      const { revision } = await json<DrawingDto>(`/api/drawings/${drawingId}`);
      const files = new Map<string, string>();
      for (const path of [
        'layers',
        'picture.png',
        'objects/1',
        'tiles/tileset.json',
        ...['objects.index', '0.objects', '0.glb', 'texts.json'].map((name) => `tiles/r${revision}/${name}`),
      ]) {
        const answer = await fetch(new URL(`/api/drawings/${drawingId}/${path}`, proxy.url));
        if (answer.status === 200) files.set(path, hashOf(await answer.arrayBuffer()));
      }
      expect(files.size).toBeGreaterThan(5);
      known.push({ drawingId, files });
    }

    const until = new AbortController();
    const beganMs = performance.now();
    const people = crowd(proxy.url, PEOPLE, known, until.signal);
    const imports = Promise.all(
      Array.from({ length: IMPORTS }, async (_, k) => {
        await new Promise((resolve) => setTimeout(resolve, (k * SECONDS * 500) / IMPORTS));
        return ended((await upload(plan(4_000, 100 + k))).jobId);
      }),
    );
    // each in turn, over and over
    let cuts = 0;
    const cut = async (): Promise<void> => {
      cuts++;
      await ask(
        database,
        'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
      );
    };
    const steps = [
      () => webs[0]!.killAndRestart(),
      () => workers[0]!.killAndRestart(),
      cut,
      () => webs[1]!.killAndRestart(),
      () => workers[1]!.killAndRestart(),
    ];
    for (let k = 0; performance.now() - beganMs < SECONDS * 1000; k++) {
      await steps[k % steps.length]!();
      await new Promise((resolve) => setTimeout(resolve, 2_000));
    }
    until.abort();
    const figures = await people;
    const seconds = (performance.now() - beganMs) / 1000;
    const jobs = await imports;

    expect(figures.wrong).toEqual([]);
    for (const server of [...webs, ...workers]) expect(server.crashes, server.name).toEqual([]);
    expect(jobs.map(({ state, error }) => error?.detail ?? state)).toEqual(jobs.map(() => 'done'));
    let kept = 0;
    for (const { drawingId } of known) {
      const there = new Set((await json<MarkDto[]>(`/api/drawings/${drawingId}/marks`)).map(({ id }) => id));
      const acknowledged = figures.kept.get(drawingId) ?? [];
      kept += acknowledged.length;
      expect(acknowledged.filter((id) => !there.has(id))).toEqual([]);
    }
    // what ended halfway left nothing: content is of drawings that are there
    const ids = new Set((await json<DrawingDto[]>('/api/drawings')).map(({ id }) => id));
    expect(ids.size).toBe(known.length + IMPORTS);
    const strays = [...store.objects.keys()].filter((key) => {
      const [, drawingId] = /^office\/drawings\/([^/]+)\//.exec(key) ?? [];
      return drawingId !== undefined && !ids.has(drawingId);
    });
    expect(strays).toEqual([]);
    expect(kept).toBeGreaterThan(PEOPLE);
    const times = figures.timesMs.sort((a, b) => a - b);
    const at = (share: number): string => times[Math.floor(share * (times.length - 1))]!.toFixed(0);
    console.log(
      [
        `${PEOPLE} people, ${seconds.toFixed(0)} s: ${(figures.requests / seconds).toFixed(0)} requests a second`,
        `median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms, longest ${at(1)} ms`,
        `${figures.unavailable} of ${figures.requests} met no server and were sent again`,
        `${kept} marks acknowledged and kept, ${jobs.length} imports done`,
        `killed: ${webs.map(({ kills }) => kills).join(' + ')} times web, ${workers.map(({ kills }) => kills).join(' + ')} times workers, ${cuts} times all connections to the database`,
      ].join('\n'),
    );
  },
);

async function ask(database: TestDatabase, statement: string): Promise<void> {
  const client = new Client({ connectionString: database.env.GULL_PANE_DATABASE_URL });
  await client.connect();
  await client.query(statement);
  await client.end();
}
