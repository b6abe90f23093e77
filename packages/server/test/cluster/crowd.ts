/** People who look and mark, all at once, and notice every wrong answer. */
import { createHash, randomUUID } from 'node:crypto';
import type { MarkDto } from '@gull-pane/protocol/marks';

/** A drawing with what is served of it, as it was before anything was killed. */
export interface Known {
  readonly drawingId: string;
  /** Paths with hashes of what they hold. */
  readonly files: ReadonlyMap<string, string>;
}

export interface CrowdFigures {
  requests: number;
  /** Answers that say that a server isn't there for a moment, and connections that broke. */
  unavailable: number;
  /** What must never be: other statuses, contents that aren't right. */
  readonly wrong: string[];
  /** Marks whose keeping was acknowledged. */
  readonly kept: Map<string, string[]>;
  readonly timesMs: number[];
}

/** The shortest and the longest pause of a person, ms. */
const [LEAST_PAUSE_MS, MOST_PAUSE_MS] = [100, 900] as const;
const AWAY = new Set([502, 503, 504]);

export const hashOf = (content: ArrayBuffer): string => createHash('sha256').update(Buffer.from(content)).digest('hex');

export async function crowd(
  url: string,
  people: number,
  drawings: readonly Known[],
  until: AbortSignal,
): Promise<CrowdFigures> {
  const figures: CrowdFigures = { requests: 0, unavailable: 0, wrong: [], kept: new Map(), timesMs: [] };
  const one = async (number: number): Promise<void> => {
    const headers = { 'x-forwarded-for': `10.0.${number >> 8}.${number & 255}` };
    while (!until.aborted) {
      const known = drawings[Math.floor(Math.random() * drawings.length)]!;
      if (Math.random() < 0.25) await mark(url, headers, known.drawingId, figures);
      else await look(url, headers, known, figures);
      await new Promise((resolve) =>
        setTimeout(resolve, LEAST_PAUSE_MS + Math.random() * (MOST_PAUSE_MS - LEAST_PAUSE_MS)),
      );
    }
  };
  await Promise.all(Array.from({ length: people }, (_, number) => one(number)));
  return figures;
}

async function look(
  url: string,
  headers: Record<string, string>,
  { drawingId, files }: Known,
  figures: CrowdFigures,
): Promise<void> {
  const paths = [...files.keys()];
  const path = paths[Math.floor(Math.random() * paths.length)]!;
  const answer = await ask(new URL(`/api/drawings/${drawingId}/${path}`, url), { headers }, figures);
  if (!answer) return;
  if (answer.status !== 200) figures.wrong.push(`${path}: ${answer.status}`);
  else if (hashOf(answer.content) !== files.get(path)) figures.wrong.push(`${path}: other content`);
}

/** Keeps a mark: tries again until it is acknowledged, as the page does. */
async function mark(
  url: string,
  headers: Record<string, string>,
  drawingId: string,
  figures: CrowdFigures,
): Promise<void> {
  const id = randomUUID();
  const body = JSON.stringify({ put: [noteOf(id)], remove: [], by: randomUUID() });
  for (let tries = 0; tries < 240; tries++) {
    const answer = await ask(
      new URL(`/api/drawings/${drawingId}/marks`, url),
      { method: 'PATCH', headers: { ...headers, 'content-type': 'application/json' }, body },
      figures,
    );
    if (answer?.status === 204 || answer?.status === 200) {
      figures.kept.set(drawingId, [...(figures.kept.get(drawingId) ?? []), id]);
      return;
    }
    if (answer) {
      figures.wrong.push(`mark: ${answer.status} ${Buffer.from(answer.content).toString().slice(0, 200)}`);
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  figures.wrong.push('a mark was not kept for two minutes');
}

/** @returns null if no server was there to answer */
async function ask(
  url: URL,
  init: RequestInit,
  figures: CrowdFigures,
): Promise<{ readonly status: number; readonly content: ArrayBuffer } | null> {
  const beganMs = performance.now();
  figures.requests++;
  try {
    const answer = await fetch(url, init);
    const content = await answer.arrayBuffer();
    if (!AWAY.has(answer.status)) {
      figures.timesMs.push(performance.now() - beganMs);
      return { status: answer.status, content };
    }
  } catch {
    // the connection broke
  }
  figures.unavailable++;
  return null;
}

const noteOf = (id: string): MarkDto => ({
  id,
  kind: 'note',
  layer: 'Checks',
  colour: '#c2410c',
  line: 'solid',
  widthMm: 0.5,
  text: 'Check this valve',
  points: [
    { x: 412_600_510, y: 7_208_400_260, z: 0 },
    { x: 412_600_520, y: 7_208_400_280, z: 0 },
  ],
  x: { x: 1, y: 0, z: 0 },
  y: { x: 0, y: 1, z: 0 },
});
