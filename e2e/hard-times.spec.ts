import { once } from 'node:events';
import { rm } from 'node:fs/promises';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import type { JobDto } from '@gull-pane/protocol/jobs';
import { writeLargeDrawing } from '@gull-pane/demo/large-drawing';
import { emptyFolder, expect, startApp, test, type RunningApp } from './app.ts';

const MEGABYTE = 1 << 20;
const hasEnded = (state: JobDto['state']): boolean => !['queued', 'running'].includes(state);

let folder: string;
test.beforeEach(async () => {
  folder = await emptyFolder();
});
test.afterEach(() => rm(folder, { recursive: true, force: true }));

async function upload(app: RunningApp, name: string, parts: BlobPart[]): Promise<ImportAcceptedDto> {
  const body = new FormData();
  body.append('file', new File(parts, name));
  const response = await fetch(`${app.url}api/drawings`, { method: 'POST', body });
  expect(response.status).toBe(202);
  return (await response.json()) as ImportAcceptedDto;
}
const read = async <T>(app: RunningApp, path: string): Promise<T> =>
  (await fetch(`${app.url}api/${path}`)).json() as Promise<T>;

test('a process killed in the middle of an import takes it up at the next start', async () => {
  const parts: string[] = [];
  writeLargeDrawing(60_000, 5, (text) => parts.push(text));
  let app = await startApp(folder);
  const { jobId, drawingId } = await upload(app, 'Pump hall.svg', parts);
  const job = (): Promise<JobDto> => read<JobDto>(app, `jobs/${jobId}`);
  await expect.poll(async () => (await job()).state).toBe('running');

  const killed = once(app.process, 'exit');
  app.process.kill('SIGKILL');
  await killed;
  app = await startApp(folder);
  await expect.poll(async () => hasEnded((await job()).state), { timeout: 120_000 }).toBe(true);
  expect((await job()).state).toBe('done');
  expect(await read<DrawingDto>(app, `drawings/${drawingId}`)).toMatchObject({ name: 'Pump hall', status: 'ready' });
  await app.stop();
});

test('120 MB come in while the server goes on answering', async () => {
  const app = await startApp(folder);
  const pipes: string[] = [];
  for (let i = 0; i < 2000; i++)
    pipes.push(`<path id="P-${i}" fill="none" stroke="#16324A" d="M${i % 50} ${i / 50}h0.8v0.6z"/>\n`);
  const padding = `<!-- ${'as exported by a wordy program '.repeat(MEGABYTE / 32)} -->\n`;
  const parts = ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 50 40">', ...pipes];
  for (let i = 0; i < 120; i++) parts.push(padding);
  parts.push('</svg>');
  const { jobId, drawingId } = await upload(app, 'Wordy.svg', parts);
  let answers = 0;
  const ended = async (): Promise<JobDto['state'] | null> => {
    const { state } = await read<JobDto>(app, `jobs/${jobId}`);
    expect((await fetch(`${app.url}api/health`)).status).toBe(200);
    answers++;
    return hasEnded(state) ? state : null;
  };
  await expect.poll(ended, { intervals: [100], timeout: 180_000 }).toBe('done');
  expect(answers).toBeGreaterThan(3);
  expect((await read<DrawingDto>(app, `drawings/${drawingId}`)).counts.objects).toBe(2000);
  await app.stop();
});
