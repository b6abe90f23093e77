import { createWriteStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { once } from 'node:events';
import { SITE_PLAN_NAME, writeSitePlan } from '@gull-pane/demo/site-plan';
import { hasEnded } from '@gull-pane/protocol/jobs';
import { existsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DrawingsRepository } from './plugins/drawings-repository.ts';
import type { Services } from './plugins/services.ts';

/** Imports the demo through the normal import, once in the life of a data folder: who deletes it doesn't get it again. */
export async function seedDemo({ db, folder, imports }: Services): Promise<void> {
  const mark = join(folder.root, 'demo-seeded');
  if (existsSync(mark)) return;
  const drawingId = imports.newId();
  const jobId = imports.newId();
  const file = createWriteStream(folder.source(jobId));
  writeSitePlan((text) => void file.write(text));
  file.end();
  await once(file, 'close');
  const { size } = await stat(folder.source(jobId));
  await new DrawingsRepository(db).add(drawingId, SITE_PLAN_NAME, size);
  await imports.queue(drawingId, jobId, size);
  await new Promise<void>((resolve) => {
    const stop = imports.listen(jobId, (job) => {
      if (!hasEnded(job.state)) return;
      stop();
      resolve();
    });
  });
  writeFileSync(mark, '');
}
