/** Imports run in processes of their own: what one does to itself is its own affair. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { packGlb } from '@gull-pane/core/pyramid/glb';
import { writeLargeDrawing } from '@gull-pane/demo/large-drawing';
import type { ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import type { JobDto } from '@gull-pane/protocol/jobs';
import { importProcesses } from './import-processes-of.ts';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

function largePlan(segments: number): string {
  const parts: string[] = [];
  writeLargeDrawing(segments, 7, (text) => parts.push(text));
  return parts.join('');
}

const begin = async (content: string | Uint8Array<ArrayBuffer>, name: string): Promise<ImportAcceptedDto> =>
  (await (await server.upload(content, name)).json()) as ImportAcceptedDto;

async function untilRunning(jobId: string): Promise<void> {
  for (;;) {
    const { state, progress } = await server.json<JobDto>(`/api/jobs/${jobId}`);
    if (state === 'running' && progress.bytesRead > 0) return;
    expect(['queued', 'running']).toContain(state);
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}

const isLinux = process.platform === 'linux';

it('one that takes more memory than it may, outside of its script’s heap, ends alone, and names the limit', async () => {
  const MAX_MEMORY_MB = 128;
  const tight = await TestServer.start({ GULL_PANE_MAX_IMPORT_MEMORY_MB: String(MAX_MEMORY_MB) });
  const bin = new Uint8Array(MAX_MEMORY_MB * 1024 * 1024);
  const buffers = [{ byteLength: bin.length }];
  const glb = packGlb({ asset: { version: '2.0' }, buffers, nodes: [{ name: 'Slab' }] }, bin);
  const { job } = await tight.import(glb, 'Heavy.glb');
  expect(job.error).toMatchObject({
    code: 'limit-exceeded',
    detail: expect.stringContaining(`${MAX_MEMORY_MB} MB of memory (GULL_PANE_MAX_IMPORT_MEMORY_MB)`) as string,
  });
  expect((await tight.import(smallPlan)).job.state).toBe('done');
  await tight.stop();
});

describe.runIf(isLinux)('while a large file is being read', () => {
  it('small ones don’t wait for it, and a drawing takes no second import', async () => {
    const large = await begin(largePlan(150_000), 'Large.svg');
    await untilRunning(large.jobId);
    const small = await Promise.all([1, 2, 3].map(() => server.import(smallPlan)));
    expect(small.map(({ job }) => job.state)).toEqual(['done', 'done', 'done']);
    expect((await server.json<JobDto>(`/api/jobs/${large.jobId}`)).state).toBe('running');
    const source = `/api/drawings/${large.drawingId}/source`;
    const second = await server.upload(smallPlan, 'Second.svg', source, 'PUT');
    expect([second.status, (await problemOf(second)).code]).toEqual([409, 'import-running']);
    await server.fetch(`/api/jobs/${large.jobId}/cancel`, { method: 'POST' });
  });

  it('of two that are sent for one drawing at the same moment, one is taken', async () => {
    const { drawing } = await server.import(smallPlan);
    const source = `/api/drawings/${drawing.id}/source`;
    const sent = await Promise.all([1, 2].map(() => server.upload(smallPlan, 'Again.svg', source, 'PUT')));
    expect(sent.map(({ status }) => status).sort()).toEqual([202, 409]);
  });

  it('a process that is killed ends its import with a reason, and nothing else', async () => {
    const { drawingId, jobId } = await begin(largePlan(150_000), 'Killed.svg');
    await untilRunning(jobId);
    for (const pid of importProcesses()) process.kill(pid, 'SIGKILL');
    const job = await server.ended(jobId);
    expect(job).toMatchObject({ state: 'failed', error: { code: 'import-failed' } });
    expect(job.error!.detail).toContain('memory runs out');
    expect((await server.fetch(`/api/drawings/${drawingId}`)).status).toBe(200);
    expect((await server.import(smallPlan)).job.state).toBe('done');
  });

  it('cancelling ends its process', async () => {
    const { jobId } = await begin(largePlan(150_000), 'Cancelled.svg');
    await untilRunning(jobId);
    const before = importProcesses();
    await server.fetch(`/api/jobs/${jobId}/cancel`, { method: 'POST' });
    expect(importProcesses().length).toBeLessThan(before.length);
  });
});
