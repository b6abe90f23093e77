/** Imports the demo for the servers of browser tests, unless this very build has done so: each gets a copy. */
import { existsSync, readFileSync } from 'node:fs';
import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { SITE_PLAN_NAME } from '@gull-pane/demo/site-plan';
import { DEMO_FOLDER, startApp, type RunningApp } from './app.ts';

const BUILT = join(DEMO_FOLDER, '..', 'built');
/** A set of sheets, two models and the site plan, one after another. */
const DRAWINGS = 4;

const textOf = (path: string): string => (existsSync(path) ? readFileSync(path, 'utf8') : '');

async function demoImported(app: RunningApp): Promise<void> {
  const ask = async <T>(path: string): Promise<T> =>
    (await fetch(`${app.url}api/drawings${path}`)).json() as Promise<T>;
  for (let [ready, issues] = [0, 0]; ready < DRAWINGS || issues < 2;) {
    const drawings = await ask<{ readonly id: string; readonly name: string; readonly status: string }[]>('');
    const failed = drawings.filter(({ status }) => status === 'failed').length;
    if (failed > 0) throw new Error(`seed-demo: ${failed} of ${drawings.length} drawings of the demo failed`);
    ready = drawings.filter(({ status }) => status === 'ready').length;
    const plan = drawings.find(({ name }) => name === SITE_PLAN_NAME);
    if (plan) issues = (await ask<readonly unknown[]>(`/${plan.id}/revisions`)).length;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

/** @public named in playwright.config.ts */
export default async function seedDemo(): Promise<void> {
  const build = textOf(BUILT);
  const stamp = join(DEMO_FOLDER, 'made-by-build');
  if (build !== '' && textOf(stamp) === build) return;
  console.log('Importing the demo for the browser tests …');
  const making = `${DEMO_FOLDER}-making`;
  for (const old of [making, DEMO_FOLDER]) await rm(old, { recursive: true, force: true });
  await mkdir(making, { recursive: true });
  const app = await startApp(making);
  await demoImported(app);
  await app.stop();
  await writeFile(join(making, 'made-by-build'), build);
  await rename(making, DEMO_FOLDER);
}
