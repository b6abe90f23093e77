/** Several servers of one database and one object store: each gives the same answers, and takes over the jobs of a dead one. */
import { execFileSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { writeLargeDrawing } from '@gull-pane/demo/large-drawing';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import type { ChangeEvent } from '@gull-pane/protocol/events';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import { findPostgres } from '../../../scripts/set-up.mjs';
import { configFromEnvironment } from '../src/config.ts';
import { startServer, type RunningServer } from '../src/server.ts';
import { smallPlan } from './running-server.ts';
import { S3StandIn } from './stand-ins/s3-stand-in.ts';
import { TestDatabase } from './test-database.ts';

/** Imports of large files give way to everything else: beside other tests they may stand still for a minute. */
const LONGEST_MS = 400_000;

describe.skipIf(process.env.GULL_PANE_TEST_POSTGRES === undefined)('several servers', () => {
  const ends: (() => Promise<unknown>)[] = [];
  let database: TestDatabase;
  let store: S3StandIn;
  const before = { ...process.env };
  beforeEach(async () => {
    database = (await TestDatabase.create())!;
    ends.push(() => database.drop());
    store = await S3StandIn.start();
    ends.push(() => store.stop());
    Object.assign(process.env, store.env());
  });
  afterEach(async () => {
    for (let end = ends.pop(); end; end = ends.pop()) await end();
    process.env = { ...before };
  });

  const serve = async (roles = 'web,worker', env: NodeJS.ProcessEnv = {}): Promise<RunningServer> => {
    const folder = await mkdtemp(join(tmpdir(), 'gull-pane-several-'));
    const server = await startServer(
      configFromEnvironment({
        PORT: '0',
        GULL_PANE_DATA: folder,
        GULL_PANE_ROLES: roles,
        ...database.env,
        ...store.env(),
        ...env,
      }),
    );
    ends.push(async () => {
      await server.stop();
      await rm(folder, { recursive: true, force: true });
    });
    return server;
  };
  const json = async <T>(server: RunningServer, path: string, init?: RequestInit): Promise<T> =>
    (await fetch(new URL(path, server.url), init)).json() as Promise<T>;
  const upload = (server: RunningServer, content: string): Promise<ImportAcceptedDto> => {
    const body = new FormData();
    body.append('file', new File([content], 'Plan.svg'));
    return json(server, '/api/drawings', { method: 'POST', body });
  };
  const ended = async (server: RunningServer, jobId: string): Promise<JobDto> => {
    let job: JobDto | undefined;
    const ask = async (): Promise<boolean> => {
      job = await json<JobDto>(server, `/api/jobs/${jobId}`);
      return hasEnded(job.state);
    };
    await expect.poll(ask, { timeout: LONGEST_MS, interval: 100 }).toBe(true);
    return job!;
  };
  const largePlan = (segments = 120_000): string => {
    const parts: string[] = [];
    writeLargeDrawing(segments, 3, (text) => parts.push(text));
    return parts.join('');
  };
  const ask = async (statement: string): Promise<Record<string, unknown>[]> => {
    const client = new Client({ connectionString: database.env.GULL_PANE_DATABASE_URL });
    await client.connect();
    const { rows } = await client.query<Record<string, unknown>>(statement);
    await client.end();
    return rows;
  };

  it('a file sent to one is imported by a worker and served by all', async () => {
    const [one, other, worker] = [await serve('web'), await serve('web'), await serve('worker')];
    const { drawingId, jobId } = await upload(one, smallPlan);
    expect(await ended(other, jobId)).toMatchObject({ state: 'done', progress: { objects: 3 } });
    const drawing = await json<DrawingDto>(other, `/api/drawings/${drawingId}`);
    expect(drawing).toMatchObject({ status: 'ready', revision: 1 });
    const paths = ['tiles/tileset.json', 'tiles/r1/objects.index', 'objects/2', 'picture.png', 'layers'];
    for (const path of paths) {
      const bodies = await Promise.all(
        [one, other].map(async ({ url }) => {
          const answer = await fetch(new URL(`/api/drawings/${drawingId}/${path}`, url));
          expect(answer.status, path).toBe(200);
          return Buffer.from(await answer.arrayBuffer());
        }),
      );
      expect(bodies[0]!.equals(bodies[1]!), path).toBe(true);
    }
    const svg = await fetch(new URL(`/api/drawings/${drawingId}/export/svg`, one.url), { method: 'POST' });
    expect(await svg.text()).toContain('KS-VA-0417');
    // a worker is there for those who watch it, and answers nobody else
    expect((await fetch(`${worker.url}api/ready`)).status).toBe(200);
    expect((await fetch(`${worker.url}api/drawings`)).status).toBe(404);
    // what was sent isn't kept twice, and goes with its drawing
    expect([...store.objects.keys()].filter((key) => key.startsWith('sources/'))).toEqual([]);
    await fetch(new URL(`/api/drawings/${drawingId}`, other.url), { method: 'DELETE' });
    expect([...store.objects.keys()].filter((key) => key.startsWith('drawings/'))).toEqual([]);
    expect((await fetch(new URL(`/api/drawings/${drawingId}/picture.png`, one.url))).status).toBe(404);
  });

  it('progress of an import is heard from any server; it is cancelled from any, within a second', async () => {
    const [web] = [await serve('web'), await serve('worker')];
    const { jobId, drawingId } = await upload(web, largePlan(300_000));
    await expect
      .poll(async () => (await json<JobDto>(web, `/api/jobs/${jobId}`)).progress.objects, { timeout: LONGEST_MS })
      .toBeGreaterThan(0);
    const cancelled = await json<JobDto>(web, `/api/jobs/${jobId}/cancel`, { method: 'POST' });
    expect(cancelled.state).toBe('cancelled');
    expect(await json(web, `/api/drawings/${drawingId}`)).toMatchObject({ status: 'failed', revision: 0 });
  });

  it('a start of one doesn’t touch what another runs', async () => {
    const first = await serve();
    const { jobId } = await upload(first, largePlan());
    await expect.poll(async () => (await json<JobDto>(first, `/api/jobs/${jobId}`)).state).toBe('running');
    const second = await serve();
    expect(await ended(second, jobId)).toMatchObject({ state: 'done' });
    expect(await ask('select attempts from import_job')).toEqual([{ attempts: 1 }]);
  });

  it('jobs of a server that stops are taken up by another; those of a dead one, too, after a while', async () => {
    const first = await serve();
    const { jobId } = await upload(first, largePlan());
    await expect.poll(async () => (await json<JobDto>(first, `/api/jobs/${jobId}`)).state).toBe('running');
    const second = await serve();
    await ends.splice(-2, 1)[0]!();
    expect(await ended(second, jobId)).toMatchObject({ state: 'done' });
    // a job of a server that was killed: its last heartbeat is old
    const { jobId: other } = await upload(second, smallPlan);
    await ended(second, other);
    const [{ drawing_id: drawingId }] = (await ask('select drawing_id from import_job limit 1')) as [
      { drawing_id: string },
    ];
    const left = randomUUID();
    store.objects.set(`sources/${left}.source`, {
      content: Buffer.from(smallPlan),
      changedAt: new Date(),
      metadata: {},
    });
    await ask(
      `insert into import_job (id, drawing_id, state, bytes_total, worker, heartbeat_at, attempts)
       values ('${left}', '${drawingId}', 'running', 500, '${randomUUID()}', now() - interval '16 seconds', 1)`,
    );
    expect(await ended(second, left)).toMatchObject({ state: 'done' });
    // one that has ended its server again and again is refused
    const fatal = randomUUID();
    await ask(
      `insert into import_job (id, drawing_id, state, bytes_total, worker, heartbeat_at, attempts)
       values ('${fatal}', '${drawingId}', 'running', 500, '${randomUUID()}', now() - interval '16 seconds', 5)`,
    );
    expect(await ended(second, fatal)).toMatchObject({ state: 'failed', error: { code: 'import-failed' } });
    // files of jobs that have ended, which a killed server couldn't remove; one of a job that is just being queued stays
    const hoursAgo = new Date(Date.now() - 2 * 3600 * 1000);
    const [ofEnded, ofNone, beingQueued] = [fatal, randomUUID(), randomUUID()];
    const stored = { content: Buffer.from(smallPlan), metadata: {} };
    store.objects.set(`sources/${ofEnded}.source`, { ...stored, changedAt: hoursAgo });
    store.objects.set(`sources/${ofNone}.source`, { ...stored, changedAt: hoursAgo });
    store.objects.set(`sources/${beingQueued}.source`, { ...stored, changedAt: new Date() });
    await second.services.imports.tidy();
    expect([...store.objects.keys()].filter((key) => key.startsWith('sources/'))).toEqual([
      `sources/${beingQueued}.source`,
    ]);
  });

  it('a change on one is heard by windows of all, in one order', async () => {
    const servers = [await serve('web'), await serve('web'), await serve('worker')] as const;
    const { drawingId, jobId } = await upload(servers[0], smallPlan);
    await ended(servers[1], jobId);
    const heard = await Promise.all(
      [servers[0], servers[1]].map(async ({ url }) => {
        const names: string[] = [];
        const abort = new AbortController();
        ends.push(() => {
          abort.abort();
          return Promise.resolve();
        });
        const answer = await fetch(`${url}api/events`, { signal: abort.signal });
        const read = async (): Promise<void> => {
          let text = '';
          for await (const bytes of answer.body!) {
            text += Buffer.from(bytes as Uint8Array).toString();
            const whole = text.split('\n\n');
            text = whole.pop()!;
            for (const one of whole) {
              const data = /^event: change\ndata: (.*)$/m.exec(one)?.[1];
              const event = data === undefined ? null : (JSON.parse(data) as ChangeEvent);
              if (event?.kind === 'drawing' && event.drawing.name.startsWith('Name')) names.push(event.drawing.name);
            }
          }
        };
        void read().catch(() => undefined);
        return names;
      }),
    );
    const names = Array.from({ length: 40 }, (_, k) => `Name ${k}`);
    await Promise.all(
      names.map((name, k) =>
        fetch(new URL(`/api/drawings/${drawingId}`, servers[k % 2]!.url), {
          method: 'PATCH',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ name }),
        }),
      ),
    );
    // one for each change; the import's own may come late, with a name that the drawing has by then
    await expect
      .poll(() => Math.min(...heard.map(({ length }) => length)), { timeout: LONGEST_MS })
      .toBeGreaterThanOrEqual(40);
    await expect.poll(() => heard[0], { timeout: LONGEST_MS }).toEqual(heard[1]);
  });

  it('a dump of the database and a copy of the files made after it fit together, whatever changes meanwhile', async () => {
    const server = await serve('web,worker', { GULL_PANE_KEPT_REMOVED_HOURS: '1', GULL_PANE_KEPT_REVISIONS: '1' });
    const sent = await Promise.all([upload(server, smallPlan), upload(server, smallPlan)]);
    for (const { jobId } of sent) await ended(server, jobId);
    const { programs } = findPostgres()!;
    const url = database.env.GULL_PANE_DATABASE_URL!;
    const dump = execFileSync(join(programs, 'pg_dump'), ['--no-owner', url], { maxBuffer: 1 << 28 });
    // one gets other content, the other goes, before the files are copied
    const body = new FormData();
    body.append('file', new File([smallPlan], 'Next.svg'));
    const path = `/api/drawings/${sent[0].drawingId}/source`;
    const next = await json<ImportAcceptedDto>(server, path, { method: 'PUT', body });
    await ended(server, next.jobId);
    await fetch(new URL(`/api/drawings/${sent[1].drawingId}`, server.url), { method: 'DELETE' });
    const copied = new Map(store.objects);

    const other = (await TestDatabase.create())!;
    ends.push(() => other.drop());
    const elsewhere = await S3StandIn.start();
    ends.push(() => elsewhere.stop());
    for (const [key, stored] of copied) elsewhere.objects.set(key, stored);
    execFileSync(join(programs, 'psql'), ['--quiet', '--set=ON_ERROR_STOP=1', other.env.GULL_PANE_DATABASE_URL!], {
      input: dump,
      stdio: ['pipe', 'ignore', 'inherit'],
    });
    const restored = await serve('web,worker', { ...other.env, ...elsewhere.env() });
    const drawings = await json<DrawingDto[]>(restored, '/api/drawings');
    expect(drawings.map(({ id }) => id).sort()).toEqual(sent.map(({ drawingId }) => drawingId).sort());
    for (const { id, revision } of drawings) {
      expect(revision).toBe(1);
      for (const file of ['tiles/tileset.json', 'tiles/r1/0.glb', 'objects/1', 'picture.png'])
        expect((await fetch(new URL(`/api/drawings/${id}/${file}`, restored.url))).status, file).toBe(200);
    }
  });

  it('a file that is sent piece by piece can be continued at another server; a package, too', async () => {
    const [one, other] = [await serve(), await serve('web')];
    const content = Buffer.from(largePlan());
    const tus = { 'tus-resumable': '1.0.0' };
    const metadata = `filename ${Buffer.from('Large.svg').toString('base64')}`;
    const begun = await fetch(`${one.url}api/uploads`, {
      method: 'POST',
      headers: { ...tus, 'upload-length': String(content.length), 'upload-metadata': metadata },
    });
    expect(begun.status).toBe(201);
    const path = new URL(begun.headers.get('location')!, one.url).pathname;
    const piece = (server: RunningServer, from: number, to: number): Promise<Response> =>
      fetch(new URL(path, server.url), {
        method: 'PATCH',
        headers: { ...tus, 'upload-offset': String(from), 'content-type': 'application/offset+octet-stream' },
        body: content.subarray(from, to),
      });
    const offset = async (server: RunningServer): Promise<number> =>
      Number((await fetch(new URL(path, server.url), { method: 'HEAD', headers: tus })).headers.get('upload-offset'));
    const half = Math.floor(content.length / 2);
    expect((await piece(one, 0, half)).status).toBe(204);
    expect(await offset(other)).toBe(half);
    const last = await piece(other, half, content.length);
    expect(last.status).toBe(202);
    const { jobId, drawingId } = (await last.json()) as ImportAcceptedDto;
    expect(await ended(one, jobId)).toMatchObject({ state: 'done' });
    expect([...store.objects.keys()].filter((key) => key.startsWith('uploads/'))).toEqual([]);

    const packed = await fetch(new URL(`/api/drawings/${drawingId}/package`, other.url), { method: 'POST' });
    const body = new FormData();
    body.append('file', new File([await packed.arrayBuffer()], 'Large.gull-pane.zip'));
    const received = await json<{ id: string }>(one, '/api/packages', { method: 'POST', body });
    const taken = await json<ImportAcceptedDto>(other, `/api/packages/${received.id}/take`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ how: 'new' }),
    });
    expect(await ended(other, taken.jobId)).toMatchObject({ state: 'done' });
    expect([...store.objects.keys()].filter((key) => key.startsWith('packages/'))).toEqual([]);
  });

  it('a session is known to all, and the object store may fail for a moment', async () => {
    const token = 'kelpie-sound-token';
    const [one, other] = [
      await serve('web,worker', { GULL_PANE_TOKEN: token }),
      await serve('web', { GULL_PANE_TOKEN: token }),
    ];
    const opened = await fetch(`${one.url}api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ token }),
    });
    const cookie = opened.headers.get('set-cookie')!.split(';')[0]!;
    expect((await fetch(`${other.url}api/drawings`)).status).toBe(401);
    expect((await fetch(`${other.url}api/drawings`, { headers: { cookie } })).status).toBe(200);
    const forged = `${cookie.slice(0, -4)}AAAA`;
    expect((await fetch(`${other.url}api/drawings`, { headers: { cookie: forged } })).status).toBe(401);
    store.fail(503, 'cut', 500);
    const body = new FormData();
    body.append('file', new File([smallPlan], 'Plan.svg'));
    const sent = await fetch(`${other.url}api/drawings`, { method: 'POST', headers: { cookie }, body });
    const { jobId } = (await sent.json()) as ImportAcceptedDto;
    const state = async (): Promise<string> =>
      ((await (await fetch(`${one.url}api/jobs/${jobId}`, { headers: { cookie } })).json()) as JobDto).state;
    await expect.poll(state, { timeout: LONGEST_MS }).toBe('done');
  });
});
