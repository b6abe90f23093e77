import { existsSync, writeFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { INTAKE_TOWER_NAME, intakeTowerModel } from '@gull-pane/demo/intake-tower';
import { PUMP_HALL_NAME, pumpHallModel } from '@gull-pane/demo/pump-hall';
import { SITE_PLAN_NAME, writeSitePlan } from '@gull-pane/demo/site-plan';
import { hasEnded } from '@gull-pane/protocol/jobs';
import { DrawingsRepository } from './plugins/drawings-repository.ts';
import type { Services } from './plugins/services.ts';

interface DemoDrawing {
  readonly name: string;
  readonly make: () => string | Uint8Array;
}

function sitePlan(): string {
  const parts: string[] = [];
  writeSitePlan((text) => void parts.push(text));
  return parts.join('');
}

/** What a new server begins with: the last one stands first in the list, and is read first. */
const drawings: readonly DemoDrawing[] = [
  { name: INTAKE_TOWER_NAME, make: intakeTowerModel },
  { name: PUMP_HALL_NAME, make: pumpHallModel },
  { name: SITE_PLAN_NAME, make: sitePlan },
];

/**
 * Imports the demo through the normal import, once in the life of a data folder: who deletes it doesn't get it again.
 * Comes back once the first drawing is there; the others are read meanwhile, like any import.
 */
export async function seedDemo({ db, folder, imports }: Services): Promise<void> {
  const mark = join(folder.root, 'demo-seeded');
  if (existsSync(mark)) return;
  const sources = [];
  for (const { name, make } of drawings) {
    const [drawingId, jobId] = [imports.newId(), imports.newId()];
    const content = make();
    await writeFile(folder.source(jobId), content);
    const size = Buffer.byteLength(content);
    await new DrawingsRepository(db).add(drawingId, name, size);
    sources.push({ drawingId, jobId, size });
  }
  const [first, ...others] = sources.reverse();
  const hasFirst = new Promise<void>((resolve) => {
    const stop = imports.listen(first!.jobId, (job) => {
      if (!hasEnded(job.state)) return;
      stop();
      resolve();
    });
  });
  await imports.queue(first!.drawingId, first!.jobId, first!.size);
  for (const { drawingId, jobId, size } of others) await imports.queue(drawingId, jobId, size);
  await hasFirst;
  writeFileSync(mark, '');
}
