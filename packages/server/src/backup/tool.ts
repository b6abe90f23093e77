import { createWriteStream, openAsBlob } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { basename, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { RestoringDto } from '@gull-pane/protocol/backups';
import type { ProblemDetails } from '@gull-pane/protocol/problems';
import { beforeOf, finishRestore, prepareRestore } from './read-backup.ts';
import { writeBackup } from './write-backup.ts';
import { configFromEnvironment, isAllInFolder, type ServerConfig } from '../config.ts';
import { openDatabase } from '../db/database.ts';
import { notEmbedded } from '../db/postgres.ts';
import { StartError } from '../start-error.ts';
import { RemovedContents } from '../revisions/removed-contents.ts';
import { Contents } from '../storage/contents.ts';
import { runningHolder, takeDataFolder } from '../storage/data-folder.ts';
import { openBlobs } from '../storage/open-blobs.ts';

/** So long the server may take to come back, ms. */
const PATIENCE_MS = 120_000;

async function backup(file: string, config: ServerConfig): Promise<string> {
  if (!isAllInFolder(config)) throw notEmbedded();
  const half = `${file}.part`;
  try {
    const url = await urlOfRunning(config);
    if (url !== null) {
      const response = await fetch(new URL('api/backup', url), { headers: headersOf(config) });
      if (!response.ok || !response.body) throw await refusalOf(response);
      await pipeline(Readable.fromWeb(response.body as never), createWriteStream(half));
    } else {
      const { folder, release } = await takeDataFolder(config.dataFolder);
      const database = await openDatabase(folder.database);
      try {
        const { db } = database;
        const contents = new Contents(await openBlobs(config.blobs), folder, config.copiedBytes);
        const removed = new RemovedContents(db, contents, config.keptRemovedHours);
        const archive = await writeBackup({ db, folder, removed, dump: () => database.dump() });
        await pipeline(archive, createWriteStream(half));
      } finally {
        await database.close();
        await release();
      }
    }
    await rename(half, file);
    return `Backed up to ${file}: ${Math.ceil((await stat(file)).size / 1e6)} MB.`;
  } finally {
    await rm(half, { force: true });
  }
}

async function restore(file: string, config: ServerConfig): Promise<string> {
  if (!isAllInFolder(config)) throw notEmbedded();
  const url = await urlOfRunning(config);
  if (url === null) {
    const { folder, release } = await takeDataFolder(config.dataFolder);
    try {
      const { drawings, writtenAt } = await prepareRestore(file, folder);
      await finishRestore(folder);
      return toldOf(drawings, writtenAt, beforeOf(folder));
    } finally {
      await release();
    }
  }
  await stat(file).catch(() => Promise.reject(new StartError(`There is no file ${file}.`)));
  const body = new FormData();
  body.append('file', await openAsBlob(file), basename(file));
  const response = await fetch(new URL('api/restore', url), { method: 'POST', headers: headersOf(config), body });
  if (!response.ok) throw await refusalOf(response);
  const { drawings, writtenAt } = (await response.json()) as RestoringDto;
  await untilBack(url);
  return toldOf(drawings, writtenAt, resolve(config.dataFolder, 'before-restore'));
}

const toldOf = (drawings: number, writtenAt: string, before: string): string =>
  `Restored ${drawings} drawings as of ${writtenAt}. What was there before lies in ${before} until the next time.`;

const urlOfRunning = async ({ dataFolder }: ServerConfig): Promise<string | null> =>
  (await runningHolder(dataFolder))?.url ?? null;
const headersOf = ({ token }: ServerConfig): Record<string, string> =>
  token === null ? {} : { authorization: `Bearer ${token}` };

async function refusalOf(response: Response): Promise<StartError> {
  const problem = (await response.json().catch(() => ({}))) as Partial<ProblemDetails>;
  return new StartError(`The server refused (${response.status}): ${problem.detail ?? problem.title ?? ''}`);
}

/** Waits until the server has gone and come back. */
async function untilBack(url: string): Promise<void> {
  const endMs = Date.now() + PATIENCE_MS;
  let hasGone = false;
  while (Date.now() < endMs) {
    const isThere = await fetch(new URL('api/health', url)).then(
      ({ ok }) => ok,
      () => false,
    );
    if (!isThere) hasGone = true;
    else if (hasGone) return;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new StartError('The server doesn’t come back: look at what it has printed.');
}

/**
 * Writes a backup, or restores one, whether a server runs on the data or not.
 * @param what `backup` or `restore`
 * @returns a line for the person who wanted it
 * @throws StartError with one line for that person
 */
export async function runTool(
  what: string | undefined,
  file: string | undefined,
  env: NodeJS.ProcessEnv,
): Promise<string> {
  if ((what !== 'backup' && what !== 'restore') || file === undefined)
    throw new StartError('Name a file: npm run backup -- FILE, npm run restore -- FILE.');
  // where the person stood who called npm
  const path = resolve(env.INIT_CWD ?? '.', file);
  return (what === 'backup' ? backup : restore)(path, configFromEnvironment(env));
}
