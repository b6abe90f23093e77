/** How long imports take: a large file by itself, and small ones beside it. */
import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import { median, plain, ratio, type Figure } from './statistics.ts';

/** Small files that are imported one after the other. */
const SMALL_FILES = 9;
/** A plan of a kilobyte. */
const SMALL_PLAN = `<svg xmlns="http://www.w3.org/2000/svg"><g id="Walls" stroke="black">${Array.from(
  { length: 25 },
  (_, i) => `<path d="M${10 * i} 0h300v-200z"/>`,
).join('')}</g></svg>`;

async function upload(
  url: string,
  name: string,
  content: Uint8Array<ArrayBuffer> | string,
): Promise<ImportAcceptedDto> {
  const body = new FormData();
  body.append('file', new File([content], name));
  return (await (await fetch(`${url}api/drawings`, { method: 'POST', body })).json()) as ImportAcceptedDto;
}

async function jobWhen(url: string, id: string, isMeant: (job: JobDto) => boolean, everyMs: number): Promise<JobDto> {
  for (;;) {
    const job = (await (await fetch(`${url}api/jobs/${id}`)).json()) as JobDto;
    if (isMeant(job) || hasEnded(job.state)) return job;
    await new Promise((resolve) => setTimeout(resolve, everyMs));
  }
}

/**
 * Imports a large plan as often as is asked, with the server's health watched, then small ones beside it.
 * @param url of the server
 * @param path of the large plan
 * @returns the drawing that was imported last
 */
export async function measureImport(
  url: string,
  path: string,
  times: number,
  keep: (figure: Figure) => void,
): Promise<DrawingDto> {
  const ours: number[] = [];
  const floor: number[] = [];
  const slowest: number[] = [];
  let drawingId = '';
  for (let i = 0; i < times; i++) {
    const text = execFileSync('npx', ['tsx', 'bench/parse-floor.ts', path], { encoding: 'utf8' });
    floor.push((JSON.parse(text) as { ms: number }).ms);
    const stopProbe = await probeHealth(url);
    const accepted = await upload(url, 'Large.svg', Uint8Array.from(readFileSync(path)));
    const begin = performance.now();
    await jobWhen(url, accepted.jobId, () => false, 50);
    ours.push(performance.now() - begin);
    slowest.push(await stopProbe());
    ({ drawingId } = accepted);
  }
  keep(ratio('import', 5, 'saxes and every number into a Float64Array', { ours, peer: floor }));
  keep(plain('health-under-import', 200, 'ms', '–', Math.max(...slowest)));
  await measureSmall(url, path, keep);
  return (await (await fetch(`${url}api/drawings/${drawingId}`)).json()) as DrawingDto;
}

/** Imports a file and waits for it. @throws Error if it doesn't come in */
export async function importFile(url: string, path: string, name: string): Promise<DrawingDto> {
  const accepted = await upload(url, name, Uint8Array.from(readFileSync(path)));
  const job = await jobWhen(url, accepted.jobId, () => false, 300);
  if (job.state !== 'done') throw new Error(`${name} doesn't come in: ${JSON.stringify(job)}`);
  return (await (await fetch(`${url}api/drawings/${accepted.drawingId}`)).json()) as DrawingDto;
}

/** A plan of a kilobyte from upload to ready, while a large one is imported. */
async function measureSmall(url: string, path: string, keep: (figure: Figure) => void): Promise<void> {
  const large = await upload(url, 'Large.svg', Uint8Array.from(readFileSync(path)));
  await jobWhen(url, large.jobId, ({ progress }) => progress.objects > 0, 20);
  const took: number[] = [];
  for (let i = 0; i < SMALL_FILES; i++) {
    const begin = performance.now();
    const { jobId } = await upload(url, `Small ${i}.svg`, SMALL_PLAN);
    await jobWhen(url, jobId, () => false, 5);
    took.push(performance.now() - begin);
  }
  await fetch(`${url}api/jobs/${large.jobId}/cancel`, { method: 'POST' });
  await jobWhen(url, large.jobId, () => false, 50);
  keep(plain('import-small', 250, 'ms', '–', median(took), took));
}

/** Begins to ask how the server is. @returns ends it, and gives the slowest answer, ms */
async function probeHealth(url: string): Promise<() => Promise<number>> {
  const probe = spawn(process.execPath, ['--import', 'tsx', 'bench/health-probe.ts', url], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  await new Promise((resolve) => setTimeout(resolve, 1000));
  return async () => {
    let said = '';
    probe.stdout.on('data', (data: Buffer) => (said += data.toString()));
    const ended = once(probe, 'exit');
    probe.stdin.end();
    await ended;
    return (JSON.parse(said) as { slowestMs: number }).slowestMs;
  };
}
