/**
 * What all API tests begin with: the built product, whose threads the server under test runs, and an empty database,
 * which is copied for each server: making one takes seconds.
 */
import { existsSync, readFileSync } from 'node:fs';
import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { build, root } from '../../../scripts/set-up.mjs';
import { configFromEnvironment } from '../src/config.ts';
import { startServer } from '../src/server.ts';

const CACHE = join(root, '.cache');
const TEMPLATE = join(CACHE, 'empty-database');

const textOf = (path: string): string => (existsSync(path) ? readFileSync(path, 'utf8') : '');

/** @public named in vitest.config.ts */
export default async function prepare(): Promise<void> {
  build();
  process.env.GULL_PANE_BUILT_THREADS = join(root, 'packages', 'server', 'dist');
  process.env.GULL_PANE_EMPTY_DATABASE = join(TEMPLATE, 'database');
  const stamp = textOf(join(CACHE, 'built'));
  if (textOf(join(TEMPLATE, 'made-by-build')) === stamp) return;
  const making = `${TEMPLATE}-making`;
  for (const folder of [making, TEMPLATE]) await rm(folder, { recursive: true, force: true });
  await mkdir(making, { recursive: true });
  const server = await startServer(configFromEnvironment({ PORT: '0', GULL_PANE_DATA: making }));
  await server.stop();
  await writeFile(join(making, 'made-by-build'), stamp);
  await rename(making, TEMPLATE);
}
