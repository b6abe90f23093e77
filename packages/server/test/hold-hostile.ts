/** Every file that was made to hurt: it ends within time and memory, with a clear answer, and nothing else is touched. */
import { appendFileSync, existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hostileFiles } from '@gull-pane/importers/testing/hostile/hostile-files';
import type { HostileFile } from '@gull-pane/importers/testing/hostile/hostile-file';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { residentBytes } from '../src/threads/resident-memory.ts';
import { importProcesses } from './import-processes-of.ts';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

const MAX_MEMORY_MB = 1024;
/** Time and memory of each file are written there, as rows of a table. */
const { HOSTILE_TABLE: table } = process.env;

let server: TestServer;
let kept: DrawingDto;
const limits = {
  GULL_PANE_MAX_IMPORT_MEMORY_MB: String(MAX_MEMORY_MB),
  GULL_PANE_MAX_IMPORT_SECONDS: '300',
  GULL_PANE_MAX_ELEMENTS: '100000',
  GULL_PANE_MAX_UNPACKED_MB: '256',
};

/** Imports while asking about health all the time; how fast the answers come is measured by `npm run bench`. */
async function importAndWatch({ make, fileName }: HostileFile) {
  const state = { isDone: false };
  let peakBytes = 0;
  const watch = (async () => {
    while (!state.isDone) {
      expect((await server.fetch('/api/health')).status).toBe(200);
      for (const pid of table ? importProcesses() : [])
        peakBytes = Math.max(peakBytes, (await residentBytes(pid)) ?? 0);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  })();
  const content = make();
  const beganMs = performance.now();
  try {
    const accepted = await server.upload(content, fileName);
    const isTaken = accepted.status === 202;
    const { drawingId, jobId } = isTaken
      ? ((await accepted.json()) as ImportAcceptedDto)
      : { drawingId: '', jobId: '' };
    const error = isTaken ? (await server.ended(jobId)).error : await problemOf(accepted);
    const seconds = (performance.now() - beganMs) / 1000;
    const drawing = isTaken ? await server.json<DrawingDto>(`/api/drawings/${drawingId}`) : null;
    return {
      error,
      drawing,
      seconds,
      peakMb: () => Math.round(peakBytes / 1024 / 1024),
      kilobytes: content.length / 1000,
    };
  } finally {
    state.isDone = true;
    await watch;
  }
}

/** Tests that hold a server against all hostile files of some formats. */
export function holdHostile(formats: readonly (keyof typeof hostileFiles)[]): void {
  beforeAll(async () => {
    server = await TestServer.start(limits);
    kept = (await server.import(smallPlan)).drawing;
  });
  afterAll(() => server.stop());
  describe.each(formats)('%s', (format) => {
    const files: readonly HostileFile[] = hostileFiles[format];
    it.each(files)('$what: $answer', async (file) => {
      const { what, answer, says, counts } = file;
      const { error, drawing, seconds, peakMb, kilobytes } = await importAndWatch(file);
      const told = error?.detail ?? drawing?.warnings.map(({ message }) => message).join('; ') ?? '';
      if (table) {
        const row = [
          format,
          what,
          `${kilobytes.toFixed(0)} kB`,
          `${seconds.toFixed(1)} s`,
          `${peakMb()} MB`,
          error?.code ?? 'ready',
          told,
        ];
        appendFileSync(table, `| ${row.join(' | ')} |\n`);
      }
      expect(error?.code ?? 'ready', told).toBe(answer);
      if (says) expect(told).toMatch(says);
      if (answer === 'limit-exceeded') expect(told).not.toContain('MAX_IMPORT_SECONDS'); // known before time is up
      if (counts) expect(drawing!.counts).toMatchObject(counts);
      // nothing is left of what failed, and nothing else is touched
      expect(readdirSync(join(server.dataFolder, 'sources'))).toEqual([]);
      const folder = join(server.dataFolder, 'drawings', drawing?.id ?? 'none');
      if (answer !== 'ready') expect(existsSync(folder) ? readdirSync(folder) : []).toEqual([]);
      expect(await server.json(`/api/drawings/${kept.id}`)).toEqual(kept);
    });
  });
}
