import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import { TestServer, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start({
    GULL_PANE_MAX_IMPORT_MEMORY_MB: '1024',
    GULL_PANE_MAX_IMPORT_SECONDS: '120',
    GULL_PANE_MAX_ELEMENTS: '200000',
  });
});
afterAll(() => server.stop());

const svg = (content: string): string => `<svg xmlns="http://www.w3.org/2000/svg">${content}</svg>`;
const line = '<path d="M0 0h9" stroke="black"/>';

/** Imports while asking about health all the time; how fast the answers come is measured by `npm run bench`. */
async function importAndWatch(content: string, name?: string): Promise<{ job: JobDto; drawing: DrawingDto }> {
  const state = { isDone: false };
  const watch = (async () => {
    while (!state.isDone) {
      expect((await server.fetch('/api/health')).status).toBe(200);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  const result = await server.import(content, name);
  state.isDone = true;
  await watch;
  return result;
}

/** Nothing of a failed import stays behind. */
function expectNothingLeft({ drawing }: { drawing: DrawingDto }): void {
  expect(readdirSync(join(server.dataFolder, 'sources'))).toEqual([]);
  const folder = join(server.dataFolder, 'drawings', drawing.id);
  expect(readdirSync(join(server.dataFolder, 'drawings')).includes(drawing.id) ? readdirSync(folder) : []).toEqual([]);
}

describe('what is taken with care', () => {
  it.each<[string, string, Partial<DrawingDto['counts']>]>([
    [
      'a hundred thousand groups within one another',
      svg('<g>'.repeat(90_000) + line + '</g>'.repeat(90_000)),
      { objects: 1 },
    ],
    [
      'fifty thousand ids and classes',
      svg(
        Array.from({ length: 50_000 }, (_, i) => `<path id="p${i}" class="c${i}" d="M${i} 0h1" stroke="red"/>`).join(
          '',
        ),
      ),
      { objects: 50_000, layers: 1 },
    ],
    [
      'twenty thousand named groups',
      svg(Array.from({ length: 20_000 }, (_, i) => `<g id="g${i}"><path d="M${i} 0h1" stroke="red"/></g>`).join('')),
      { objects: 20_000 },
    ],
    [
      'a path of a million points',
      svg(
        `<path fill="none" stroke="black" d="M0 0${Array.from({ length: 1_000_000 }, (_, i) => `L${i} ${i % 7}`).join('')}"/>`,
      ),
      { objects: 1, segments: 1_000_000 },
    ],
    [
      'a polygon of two hundred thousand corners',
      svg(
        `<polygon points="${Array.from({ length: 200_000 }, (_, i) => `${(i * 7919) % 1000},${(i * 104729) % 1000}`).join(' ')}"/>`,
      ),
      { objects: 1 },
    ],
    [
      'one point, nothing wide, nothing high',
      svg(`<path d="M5 5h0" stroke="black"/>${line}<rect width="0" height="9"/>`),
      {},
    ],
  ])('%s', async (_what, content, counts) => {
    const { job, drawing } = await importAndWatch(content);
    expect(job.error).toBeUndefined();
    expect(drawing.status).toBe('ready');
    expect(drawing.counts).toMatchObject(counts);
  });

  it('numbers that are none, or far too large, are left out and said', async () => {
    const { drawing } = await importAndWatch(
      svg(
        `${line}<path d="M1e308 0L-1e308 1e308" stroke="red"/><circle r="NaN"/><path d="M0 0L1e400 5" stroke="red"/>`,
      ),
    );
    expect(drawing.extents).toEqual({ min: { x: 0, y: 0, z: 0 }, max: { x: 9, y: 0, z: 0 } });
    expect(drawing.warnings).toMatchObject([{ code: 'bad-geometry', line: 1 }]);
  });
});

describe('what is refused, with the limit that it goes beyond', () => {
  it.each([
    [
      'use of use of use, a thousand million times',
      svg(
        `<g id="u0">${line}</g>${Array.from({ length: 9 }, (_, i) => `<g id="u${i + 1}">${`<use href="#u${i}"/>`.repeat(10)}</g>`).join('')}<use href="#u9"/>`,
      ),
      /more than 200000 elements/,
    ],
    ['groups without end', svg('<g>'.repeat(200_000)), /nested more than 100000 deep/],
    [
      'entities that grow one another',
      `<!DOCTYPE svg [<!ENTITY a "${'x'.repeat(1000)}"><!ENTITY b "${'&a;'.repeat(1000)}">]>${svg('<text>&b;</text>')}`,
      /beyond 100000 characters/,
    ],
  ])('%s', async (_what, content, limit) => {
    const result = await importAndWatch(content);
    expect(result.job.state).toBe('failed');
    expect(result.job.error).toMatchObject({ code: 'limit-exceeded', detail: expect.stringMatching(limit) as string });
    expectNothingLeft(result);
  });
});

it('a file cut off anywhere is an error with its place, or whole', async () => {
  for (let at = 1; at < smallPlan.length; at += 23) {
    const accepted = await server.upload(smallPlan.slice(0, at));
    if (accepted.status !== 202) continue;
    const { jobId } = (await accepted.json()) as { jobId: string };
    const job = await server.ended(jobId);
    expect(job.state).toBe('failed');
    expect(job.error!.detail).toMatch(/Line \d+, column \d+/);
  }
});

it('forty imports at once wait their turn, and all of them end', async () => {
  const jobs = await Promise.all(
    Array.from(
      { length: 40 },
      async () => ((await (await server.upload(svg(line))).json()) as { jobId: string }).jobId,
    ),
  );
  const [first] = jobs;
  expect(hasEnded((await server.ended(first!)).state)).toBe(true);
  await Promise.all(jobs.slice(30).map((job) => server.fetch(`/api/jobs/${job}/cancel`, { method: 'POST' })));
  const states = await Promise.all(jobs.map(async (job) => (await server.ended(job)).state));
  expect(states.filter((state) => state === 'done' || state === 'cancelled')).toHaveLength(40);
});
