/** Makes what the servers of browser tests begin with, unless this very build has done so: each gets a copy. */
import { existsSync, readFileSync } from 'node:fs';
import { cp, mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { DEMO_FOLDER, EMPTY_FOLDER, startApp, type RunningApp } from './app.ts';

const BUILT = join(DEMO_FOLDER, '..', 'built');
/** Two models and the site plan, one after another. */
const DRAWINGS = 3;

const textOf = (path: string): string => (existsSync(path) ? readFileSync(path, 'utf8') : '');

/** @param fill brings what a server in it needs to begin with @param untilReady what is waited for there */
async function make(
  folder: string,
  fill: (making: string) => Promise<void>,
  untilReady: (app: RunningApp) => Promise<void>,
): Promise<void> {
  const making = `${folder}-making`;
  for (const old of [making, folder]) await rm(old, { recursive: true, force: true });
  await mkdir(making, { recursive: true });
  await fill(making);
  const app = await startApp(making);
  await untilReady(app);
  await app.stop();
  await rename(making, folder);
}

async function demoImported(app: RunningApp): Promise<void> {
  for (let ready = 0; ready < DRAWINGS;) {
    const drawings = (await (await fetch(`${app.url}api/drawings`)).json()) as { readonly status: string }[];
    const failed = drawings.filter(({ status }) => status === 'failed').length;
    if (failed > 0) throw new Error(`seed-demo: ${failed} of ${drawings.length} drawings of the demo failed`);
    ready = drawings.filter(({ status }) => status === 'ready').length;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

/** @public named in playwright.config.ts */
export default async function seedDemo(): Promise<void> {
  const build = textOf(BUILT);
  const stamp = join(DEMO_FOLDER, 'made-by-build');
  if (build !== '' && textOf(stamp) === build) return;
  console.log('Importing the demo for the browser tests …');
  await make(
    EMPTY_FOLDER,
    (making) => writeFile(join(making, 'demo-seeded'), ''),
    () => Promise.resolve(),
  );
  const withDatabase = async (making: string): Promise<void> => {
    await cp(EMPTY_FOLDER, making, { recursive: true });
    await rm(join(making, 'demo-seeded'));
  };
  await make(DEMO_FOLDER, withDatabase, demoImported);
  await writeFile(stamp, build);
}
