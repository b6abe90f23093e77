import { existsSync, writeFileSync } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { INTAKE_TOWER_NAME, intakeTowerModel } from '@gull-pane/demo/intake-tower';
import { PUMP_HALL_NAME, pumpHallModel } from '@gull-pane/demo/pump-hall';
import { revisedPlan } from '@gull-pane/demo/revised-plan';
import { DETAIL_SHEETS_NAME, sheetSet } from '@gull-pane/demo/sheet-set';
import { SITE_PLAN_NAME, writeSitePlan } from '@gull-pane/demo/site-plan';
import { hasEnded } from '@gull-pane/protocol/jobs';
import { isAllInFolder } from './config.ts';
import { isFirstTo } from './db/shared-settings.ts';
import { DrawingsRepository } from './plugins/drawings-repository.ts';
import type { Services } from './plugins/services.ts';
import { Revisions } from './revisions/revisions.ts';

interface DemoDrawing {
  readonly name: string;
  readonly make: () => string | Uint8Array;
  /** Numbers that are left free for what it was before. */
  readonly formerRevisions?: number;
}

function sitePlan(): string {
  const parts: string[] = [];
  writeSitePlan((text) => void parts.push(text));
  return parts.join('');
}

/** What a new server begins with: the last one stands first in the list, and is read first. */
const drawings: readonly DemoDrawing[] = [
  { name: DETAIL_SHEETS_NAME, make: sheetSet },
  { name: INTAKE_TOWER_NAME, make: intakeTowerModel },
  { name: PUMP_HALL_NAME, make: pumpHallModel },
  { name: SITE_PLAN_NAME, make: sitePlan, formerRevisions: 1 },
];

/** So long before the plan the one before it was issued, ms. */
const ISSUED_EARLIER_MS = 21 * 24 * 3600 * 1000;

/**
 * Imports the demo through the normal import, once in the life of a data folder, or of a database that servers share: who deletes it doesn't get it again.
 * Comes back once the first drawing is there; the others are read meanwhile, like any import, and last of all what the plan
 * was before.
 */
export async function seedDemo(services: Services): Promise<void> {
  const { config, db, folder, contents, imports } = services;
  const mark = join(folder.root, 'demo-seeded');
  if (existsSync(mark) || !config.roles.has('web')) return;
  // of several servers the first
  const isShared = !isAllInFolder(config);
  if (isShared && !(await isFirstTo(db, 'demo-seeded'))) return;
  const sources = [];
  for (const { name, make, formerRevisions = 0 } of drawings) {
    const [drawingId, jobId] = [imports.newId(), imports.newId()];
    const content = make();
    const path = await contents.incoming();
    await writeFile(path, content);
    await contents.keepSource(jobId, path);
    const size = Buffer.byteLength(content);
    await new DrawingsRepository(db).add(drawingId, name, size, formerRevisions);
    sources.push({ drawingId, jobId, size });
  }
  const [first, ...others] = sources.reverse();
  const ended = (jobId: string): Promise<void> =>
    new Promise((resolve) => {
      const stop = imports.listen(jobId, (job) => {
        if (!hasEnded(job.state)) return;
        stop();
        resolve();
      });
    });
  const all = sources.map(({ jobId }) => ended(jobId));
  for (const { drawingId, jobId, size } of sources) await imports.queue(drawingId, jobId, size);
  // a server without a worker isn't kept from answering
  if (config.roles.has('worker')) await all[0];
  writeFileSync(mark, '');
  // processes of imports are a worker's
  if (config.roles.has('worker'))
    void Promise.all(others.length > 0 ? all : [])
      .then(() => seedFormerPlan(services, first!.drawingId))
      .catch((error: unknown) => console.error('demo: the plan’s first revision isn’t there:', error));
}

async function seedFormerPlan({ db, folder, contents, removed, imports }: Services, drawingId: string): Promise<void> {
  const source = join(folder.sources, `${imports.newId()}.source`);
  await writeFile(source, revisedPlan(sitePlan()).svg);
  try {
    const importedAt = new Date(Date.now() - ISSUED_EARLIER_MS);
    await imports.importFormer({ drawingId, number: 1, name: 'Issue A', importedAt }, source);
    await new Revisions(db, contents, removed).rename(drawingId, 2, 'Issue B');
  } finally {
    await rm(source, { force: true });
  }
}
