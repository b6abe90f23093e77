import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { copyFile, link, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Blob, BlobStore, ByteRange } from './blob-store.ts';
import type { DataFolder } from './data-folder.ts';
import { LocalCopies } from './local-copies.ts';

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

  /** Where a file that is received for a job is written; `keepSource` makes it available to all servers. */
  async incoming(jobId: string): Promise<string> {
    const path = this.blobs.folderOf('sources/') ?? this.folder.sources;
    await mkdir(path, { recursive: true });
    return join(path, `${jobId}.source`);
  }

  async keepSource(jobId: string): Promise<void> {
    if (this.blobs.folderOf('sources/') !== null) return;
    const path = await this.incoming(jobId);
    await this.blobs.put(sourceKey(jobId), createReadStream(path));
    await rm(path);
  }

  /** Moves a file of this machine to where a received one would be. */
  async takeIncoming(jobId: string, path: string): Promise<void> {
    const target = await this.incoming(jobId);
    await rename(path, target).catch(async () => {
      await copyFile(path, target);
      await rm(path);
    });
  }

  /** @returns the path of the file that was sent for a job @throws Error if it isn't there */
  async source(jobId: string): Promise<string> {
    const path = await this.incoming(jobId);
    if (this.blobs.folderOf('sources/') === null) {
      const found = await this.blobs.get(sourceKey(jobId));
      if (!found) throw new Error('The file that was sent isn’t kept any more.');
      await pipeline(found.stream, createWriteStream(path));
    }
    return path;
  }

  /** Ends the use of `source` on this machine. */
  async releaseSource(jobId: string): Promise<void> {
    if (this.blobs.folderOf('sources/') === null) await rm(await this.incoming(jobId), { force: true });
  }

  async removeSource(jobId: string): Promise<void> {
    await rm(await this.incoming(jobId), { force: true });
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
