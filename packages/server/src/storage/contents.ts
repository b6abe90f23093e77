import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { copyFile, link, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Blob, BlobStore, ByteRange } from './blob-store.ts';
import type { DataFolder } from './data-folder.ts';
import { LocalCopies } from './local-copies.ts';

/** Nothing is received for longer than this, ms. */
const RECEIVED_WITHIN_MS = 24 * 3600 * 1000;
/** Files sent to an object store at the same time. */
const PARALLEL_FILES = 8;

const prefixOf = (drawingId: string, revision?: number): string =>
  revision === undefined ? `drawings/${drawingId}/` : `drawings/${drawingId}/r${revision}/`;
const sourceKey = (jobId: string): string => `sources/${jobId}.source`;

/**
 * The files of drawings: what was sent, and what imports made of it. They are blobs that all servers share; what works with
 * files gets them as files of this machine, copied where blobs lie elsewhere.
 */
export class Contents {
  readonly #copies: LocalCopies;

  /** @param copiedBytes copies on this machine may take so much before those not used for long are removed */
  constructor(
    private readonly blobs: BlobStore,
    private readonly folder: DataFolder,
    copiedBytes: number,
  ) {
    this.#copies = new LocalCopies(blobs, folder.copies, copiedBytes);
  }

  /** @returns a path of its own for a file that is being received; `keepSource` takes it from there */
  async incoming(): Promise<string> {
    // where it only has to be renamed, if there is such a place
    const folder = this.blobs.folderOf('sources/') ?? this.folder.sources;
    await mkdir(folder, { recursive: true });
    return join(folder, `${randomUUID()}.incoming`);
  }

  /** Removes what was being received when a server was killed. */
  async tidy(): Promise<void> {
    const folder = this.blobs.folderOf('sources/') ?? this.folder.sources;
    for (const name of await readdir(folder).catch(() => [])) {
      if (!name.endsWith('.incoming')) continue;
      const found = await stat(join(folder, name)).catch(() => null);
      if (found && Date.now() - found.mtimeMs > RECEIVED_WITHIN_MS) await rm(join(folder, name), { force: true });
    }
  }

  /** Makes a file of this machine the source of a job, for all servers; it isn't at its path any more then. */
  async keepSource(jobId: string, path: string): Promise<void> {
    const home = this.blobs.folderOf('sources/');
    if (home === null) {
      await this.blobs.put(sourceKey(jobId), createReadStream(path));
      await rm(path);
    } else await rename(path, join(home, `${jobId}.source`));
  }

  /** @returns the path of the file that was sent for a job, until `releaseSource` @throws Error if it isn't there */
  async source(jobId: string): Promise<string> {
    const home = this.blobs.folderOf('sources/');
    if (home !== null) return join(home, `${jobId}.source`);
    const found = await this.blobs.get(sourceKey(jobId));
    if (!found) throw new Error('The file that was sent isn’t kept any more.');
    const path = join(this.folder.sources, `${jobId}.source`);
    await pipeline(found.stream, createWriteStream(path));
    return path;
  }

  /** Ends the use of `source` on this machine. */
  async releaseSource(jobId: string): Promise<void> {
    if (this.blobs.folderOf('sources/') === null)
      await rm(join(this.folder.sources, `${jobId}.source`), { force: true });
  }

  /** Removes what a job was made of, and what it has left if it was broken off. */
  async removeFilesOf(drawingId: string, jobId: string): Promise<void> {
    await this.draft(drawingId, jobId); // empties it
    await this.removeSource(jobId);
  }

  /** All files that are kept for jobs. */
  async *sources(): AsyncIterable<{ readonly jobId: string; readonly changedAtMs: number }> {
    for await (const { key, changedAtMs } of this.blobs.list('sources/')) {
      const [, jobId] = /^sources\/([0-9a-f-]{36})\.source$/.exec(key) ?? [];
      if (jobId !== undefined) yield { jobId, changedAtMs };
    }
  }

  async removeSource(jobId: string): Promise<void> {
    await this.blobs.remove(sourceKey(jobId));
  }

  /** An empty place where a job makes content, and nobody else does. */
  async draft(drawingId: string, jobId: string): Promise<string> {
    // next to where it goes, so that it is there all at once
    const path = join(this.blobs.folderOf(prefixOf(drawingId)) ?? this.folder.copies, `draft-${jobId}`);
    await rm(path, { recursive: true, force: true });
    return path;
  }

  /**
   * Makes what lies in a draft the content of a revision that no row names yet, with the file that it was made of.
   * @throws the signal's reason if it is aborted
   */
  async publish(
    draft: string,
    sourcePath: string,
    drawingId: string,
    revision: number,
    signal?: AbortSignal,
  ): Promise<void> {
    const kept = join(draft, 'source');
    await link(sourcePath, kept).catch(() => copyFile(sourcePath, kept));
    const prefix = prefixOf(drawingId, revision);
    const home = this.blobs.folderOf(prefix);
    // what an import left there that ended before its row was written
    await this.blobs.removePrefix(prefix);
    if (home !== null) {
      await mkdir(dirname(home), { recursive: true });
      await rename(draft, home);
      return;
    }
    const names = await filesBelow(draft);
    const sendOthers = async (): Promise<void> => {
      for (let name = names.pop(); name !== undefined; name = names.pop()) {
        signal?.throwIfAborted();
        await this.blobs.put(prefix + name, createReadStream(join(draft, name)));
      }
    };
    await Promise.all(Array.from({ length: PARALLEL_FILES }, sendOthers));
    // who made it is asked for it next
    await this.#copies.adopt(draft, prefix);
  }

  /** Whether the content of a revision is kept. */
  async has(drawingId: string, revision: number): Promise<boolean> {
    const home = this.blobs.folderOf(prefixOf(drawingId, revision));
    if (home !== null) return existsSync(home);
    return (await this.blobs.bytesOf(`${prefixOf(drawingId, revision)}tiles/tileset.json`)) !== null;
  }

  /** @returns a folder of this machine with all files of a revision */
  async revision(drawingId: string, revision: number): Promise<string> {
    const prefix = prefixOf(drawingId, revision);
    return this.blobs.folderOf(prefix) ?? this.#copies.folder(prefix);
  }

  /** @returns the path on this machine of the file that a revision was made of; null if it isn't kept */
  async keptSource(drawingId: string, revision: number): Promise<string | null> {
    const prefix = prefixOf(drawingId, revision);
    const path = join(this.blobs.folderOf(prefix) ?? (await this.#copies.folder(prefix)), 'source');
    return existsSync(path) ? path : null;
  }

  /** @returns one file of a revision; null if there is none of that name */
  open(drawingId: string, revision: number, path: string, range?: ByteRange): Promise<Blob | null> {
    return this.blobs.get(prefixOf(drawingId, revision) + path, range);
  }

  async remove(drawingId: string, revision: number): Promise<void> {
    const prefix = prefixOf(drawingId, revision);
    await this.#copies.forget(prefix);
    await this.blobs.removePrefix(prefix);
  }

  /** Removes all that is kept of a drawing. */
  async removeAll(drawingId: string): Promise<void> {
    await this.#copies.forget(prefixOf(drawingId));
    await this.blobs.removePrefix(prefixOf(drawingId));
  }
}

/** Paths of all files below a folder, relative to it. */
async function filesBelow(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true });
  const found: string[] = [];
  for (const path of entries) if ((await stat(join(folder, path))).isFile()) found.push(path);
  return found;
}
