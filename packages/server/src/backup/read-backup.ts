import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { mkdir, readFile, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { extract } from 'tar-stream';
import { BACKUP_FORMAT, BACKUP_VERSION, BackupManifestDto } from '@gull-pane/protocol/backups';
import { readDto } from '@gull-pane/protocol/dto';
import { openDatabase } from '../db/database.ts';
import { StartError } from '../start-error.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { DATABASE_ENTRY } from './write-backup.ts';

/** What stands in a backup, and nothing else. */
const ENTRY = /^(manifest\.json|database\.tar|demo-seeded|drawings\/[0-9a-f-]{36}\/r\d{1,9}\/(tiles\/)?[\w.-]{1,80})$/;
/** What a backup brings, of the data folder. */
const PARTS = ['database', 'drawings', 'demo-seeded'] as const;

const damaged = (why: string): StartError =>
  new StartError(`The backup is damaged: ${why} Nothing was changed. Take another one, or copy it once more.`);

const workOf = (folder: DataFolder): string => join(folder.root, 'restoring');
/** Where what was here before goes. */
export const beforeOf = (folder: DataFolder): string => join(folder.root, 'before-restore');

/**
 * Unpacks a backup beside the data and checks all of it: every file there, the database sound and not of a newer version;
 * an older one is brought up to date. Nothing of what is here is touched.
 * @throws StartError in one line for the person who wanted it
 */
export async function prepareRestore(file: string, folder: DataFolder): Promise<BackupManifestDto> {
  const work = workOf(folder);
  await rm(work, { recursive: true, force: true });
  try {
    const manifest = await unpack(file, work);
    const database = await openDatabase(join(work, 'database'), join(work, DATABASE_ENTRY)).catch((error: unknown) => {
      throw error instanceof StartError
        ? new StartError(
            'The backup was made by a newer Gull Pane: bring this one up to date, then try again. Nothing was changed.',
          )
        : damaged(`its database can’t be opened (${String(error)}).`);
    });
    await database.close();
    await rm(join(work, DATABASE_ENTRY));
    return manifest;
  } catch (error) {
    await rm(work, { recursive: true, force: true });
    throw error;
  }
}

/** Puts what was prepared in place; what was here goes aside. The database must be closed. */
export async function finishRestore(folder: DataFolder): Promise<void> {
  const [work, before] = [workOf(folder), beforeOf(folder)];
  await rm(before, { recursive: true, force: true });
  await mkdir(before);
  for (const part of PARTS)
    if (existsSync(join(folder.root, part))) await rename(join(folder.root, part), join(before, part));
  for (const part of PARTS) if (existsSync(join(work, part))) await rename(join(work, part), join(folder.root, part));
  await rm(work, { recursive: true, force: true });
}

/** Undoes finishRestore: what had gone aside is back in its place. */
export async function undoRestore(folder: DataFolder): Promise<void> {
  const before = beforeOf(folder);
  for (const part of PARTS) {
    await rm(join(folder.root, part), { recursive: true, force: true });
    if (existsSync(join(before, part))) await rename(join(before, part), join(folder.root, part));
  }
}

async function unpack(file: string, work: string): Promise<BackupManifestDto> {
  const names = new Set<string>();
  const archive = extract();
  const trouble: { error: StartError | null } = { error: null };
  archive.on('entry', ({ name, type }, stream, next) => {
    if (type !== 'file' || !ENTRY.test(name) || name.includes('..')) {
      archive.destroy((trouble.error = damaged(`“${name.slice(0, 80)}” has no place in it.`)));
      return;
    }
    names.add(name);
    const path = join(work, name);
    mkdir(dirname(path), { recursive: true })
      .then(() => pipeline(stream, createWriteStream(path)))
      .then(
        () => next(),
        (error: unknown) => next(error instanceof Error ? error : new Error(String(error))),
      );
  });
  try {
    await mkdir(work, { recursive: true });
    await pipeline(createReadStream(file), archive);
  } catch (error) {
    if (trouble.error) throw trouble.error;
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT') throw new StartError(`There is no file ${file}.`);
    throw damaged(`it can’t be unpacked (${error instanceof Error ? error.message : String(error)}).`);
  }
  if (!names.has('manifest.json')) throw damaged('it has no manifest.json.');
  let told: unknown;
  try {
    told = JSON.parse(await readFile(join(work, 'manifest.json'), 'utf8'));
  } catch {
    throw damaged('its manifest.json isn’t whole.');
  }
  const { format, version } = (told ?? {}) as { readonly format?: unknown; readonly version?: unknown };
  if (format !== BACKUP_FORMAT) throw damaged('its manifest is of something else.');
  if (typeof version === 'number' && version > BACKUP_VERSION)
    throw new StartError(
      'The backup was made by a newer Gull Pane: bring this one up to date, then try again. Nothing was changed.',
    );
  const manifest = readDto(BackupManifestDto, told);
  if (names.size - 1 !== manifest.files || !names.has(DATABASE_ENTRY))
    throw damaged(`it holds ${names.size - 1} of ${manifest.files} files.`);
  return manifest;
}
