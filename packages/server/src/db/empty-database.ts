import { cpSync, existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';

/** Where the build puts the empty database, relative to the built server and to the source. */
const TEMPLATES = ['../empty-database/', '../../empty-database/'].map(
  (path) => new URL(path, import.meta.url).pathname,
);

/**
 * Creates a new database by copying the empty one that the build has made: initialising one takes seconds. Does nothing
 * if the database exists or there is nothing to copy.
 */
export async function beginDatabase(folder: string): Promise<void> {
  const template = TEMPLATES.find((path) => existsSync(path));
  if (template === undefined || existsSync(folder)) return;
  await mkdir(dirname(folder), { recursive: true });
  const copy = `${folder}-copying`;
  await rm(copy, { recursive: true, force: true });
  cpSync(template, copy, { recursive: true }); // nothing else runs yet, and it takes a quarter of the time
  await rename(copy, folder); // so that an interrupted copy is never taken for a database
}
