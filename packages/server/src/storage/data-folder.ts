import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { dirname, join } from 'node:path';
import { lock } from 'proper-lockfile';
import { StartError } from '../start-error.ts';

/** A holder that hasn't shown a sign of life for so long is taken for dead, ms. */
const STALE_MS = 6000;
const SIGN_OF_LIFE_MS = 1500;

/** What one server keeps on its machine: the embedded database, files that are being received, copies of blobs. */
export class DataFolder {
  readonly database: string;

  constructor(readonly root: string) {
    this.database = join(root, 'database');
  }

  /** A received package, until it is accepted or discarded. */
  package(id: string): string {
    return join(this.root, 'packages', id);
  }

  get sources(): string {
    return join(this.root, 'sources');
  }

  /** Files that are being sent piece by piece. */
  get uploads(): string {
    return join(this.root, 'uploads');
  }

  /** Copies of what lies elsewhere, and drafts: nothing that must survive. */
  get copies(): string {
    return join(this.root, 'copies');
  }
}

/** Makes a folder and those above it, one by one: on some file systems the runtime's own way never comes back. */
export async function makeFolder(path: string): Promise<void> {
  if (existsSync(path)) return;
  if (dirname(path) !== path) await makeFolder(dirname(path));
  await mkdir(path).catch((error: unknown) => {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  });
}

/** Who holds a data folder. */
export interface Holder {
  readonly pid: number;
  readonly host: string;
  readonly since: string;
  /** Where it answers, once it does. */
  readonly url?: string;
}

export interface HeldFolder {
  readonly folder: DataFolder;
  /** Of the server whose folder it is, the same over all its starts. */
  readonly serverId: string;
  readonly release: () => Promise<void>;
}

/**
 * Makes the data folder and takes it for this process alone: two databases on one folder would lose rows silently.
 * @throws StartError if it can't be written or another process holds it
 */
export async function takeDataFolder(root: string): Promise<HeldFolder> {
  const folder = new DataFolder(root);
  try {
    await makeFolder(folder.sources);
    await makeFolder(folder.uploads);
    await writeFile(join(root, '.writable'), '');
    await rm(join(root, '.writable'));
  } catch (error) {
    const reason = (error as NodeJS.ErrnoException).code ?? String(error);
    throw new StartError(`The data folder ${root} can’t be written (${reason}). Name another one in GULL_PANE_DATA.`);
  }
  const holderFile = join(root, 'holder.json');
  const take = (): Promise<() => Promise<void>> =>
    lock(root, {
      stale: STALE_MS,
      update: SIGN_OF_LIFE_MS,
      lockfilePath: join(root, 'in-use'),
      onCompromised: (error) => {
        console.error(`The data folder ${root} was taken over by another process: ${error.message}`);
        process.exit(1);
      },
    });
  let release: () => Promise<void>;
  try {
    release = await take();
  } catch {
    const holder = await readHolder(holderFile);
    if (!holder || holder.host !== hostname() || isAlive(holder.pid)) throw heldBy(root, holder);
    // the last run was killed: its sign of life runs out soon
    await new Promise((resolve) => setTimeout(resolve, STALE_MS + 500));
    release = await take().catch(() => Promise.reject(heldBy(root, holder)));
  }
  const me: Holder = { pid: process.pid, host: hostname(), since: new Date().toISOString() };
  await writeFile(holderFile, JSON.stringify(me));
  await rm(folder.copies, { recursive: true, force: true });
  return {
    folder,
    serverId: await serverIdOf(root),
    release: async () => {
      await rm(holderFile, { force: true });
      await release();
    },
  };
}

/** Made at the first start. */
async function serverIdOf(root: string): Promise<string> {
  const file = join(root, 'server-id');
  const kept = (await readFile(file, 'utf8').catch(() => '')).trim();
  if (kept !== '') return kept;
  const id = randomUUID();
  await writeFile(file, id);
  return id;
}

/** Lets others on this machine know where the server of a data folder is. */
export async function tellHolder({ root }: DataFolder, url: string): Promise<void> {
  const file = join(root, 'holder.json');
  const holder = await readHolder(file);
  if (holder) await writeFile(file, JSON.stringify({ ...holder, url }));
}

/** The server that holds a data folder on this machine now; null if none does. */
export async function runningHolder(root: string): Promise<Holder | null> {
  const holder = await readHolder(join(root, 'holder.json'));
  return holder && holder.host === hostname() && isAlive(holder.pid) ? holder : null;
}

async function readHolder(file: string): Promise<Holder | null> {
  try {
    return JSON.parse(await readFile(file, 'utf8')) as Holder;
  } catch {
    return null;
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

function heldBy(root: string, holder: Holder | null): StartError {
  const who = holder ? `process ${holder.pid} on ${holder.host}, since ${holder.since}` : 'another process';
  return new StartError(
    `The data folder ${root} is in use by ${who}. Stop it, or name another folder in GULL_PANE_DATA.`,
  );
}
