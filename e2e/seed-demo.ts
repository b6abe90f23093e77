/** Imports the demo once for all browser tests, unless this very build has done so: each worker gets a copy. */
import { existsSync, readFileSync } from 'node:fs';
import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { DEMO_FOLDER, startApp } from './app.ts';

const BUILT = join(DEMO_FOLDER, '..', 'built');
const STAMP = join(DEMO_FOLDER, 'made-by-build');
/** Two models and the site plan, one after another. */
const DRAWINGS = 3;

const textOf = (path: string): string => (existsSync(path) ? readFileSync(path, 'utf8') : '');

/** @public named in playwright.config.ts */
export default async function seedDemo(): Promise<void> {
  const build = textOf(BUILT);
  if (build !== '' && textOf(STAMP) === build) return;
  console.log('Importing the demo for the browser tests …');
  const making = `${DEMO_FOLDER}-making`;
  for (const folder of [making, DEMO_FOLDER]) await rm(folder, { recursive: true, force: true });
  await mkdir(making, { recursive: true });
  const app = await startApp(making);
  for (let ready = 0; ready < DRAWINGS;) {
    const drawings = (await (await fetch(`${app.url}api/drawings`)).json()) as { readonly status: string }[];
    const failed = drawings.filter(({ status }) => status === 'failed').length;
    if (failed > 0) throw new Error(`seed-demo: ${failed} of ${drawings.length} drawings of the demo failed`);
    ready = drawings.filter(({ status }) => status === 'ready').length;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  await app.stop();
  await writeFile(join(making, 'made-by-build'), build);
  await rename(making, DEMO_FOLDER);
}
