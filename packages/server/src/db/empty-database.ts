import { existsSync } from 'node:fs';
import { cp, mkdir, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';

/** Where the build leaves an empty database of this version, from the built server and from source. */
const TEMPLATES = ['../empty-database/', '../../empty-database/'].map(
  (path) => new URL(path, import.meta.url).pathname,
);

/**
 * Begins a database as a copy of the empty one that the build has made: making one from nothing takes seconds. Does
 * nothing where there is a database already, or no copy to begin with.
 */
export async function beginDatabase(folder: string): Promise<void> {
  const template = TEMPLATES.find((path) => existsSync(path));
  if (template === undefined || existsSync(folder)) return;
  await mkdir(dirname(folder), { recursive: true });
  const copy = `${folder}-copying`;
  await rm(copy, { recursive: true, force: true });
  await cp(template, copy, { recursive: true });
  await rename(copy, folder); // a copy that was cut short never counts as a database
}
