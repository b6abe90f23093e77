import { afterAll, beforeAll, expect, it } from 'vitest';
import { hasEnded } from '@gull-pane/protocol/jobs';
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
