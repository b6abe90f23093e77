import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { access, constants, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Blob, BlobStore, ByteRange, ListedBlob } from './blob-store.ts';

/** Blobs as files of a folder: of this server's own, or one that several servers see at the same path. */
export class FolderBlobs implements BlobStore {
  constructor(private readonly root: string) {}

  async put(key: string, content: Readable): Promise<void> {
    const path = this.#path(key);
    const draft = `${path}.${randomUUID()}.draft`;
    await mkdir(dirname(path), { recursive: true });
    try {
      await pipeline(content, createWriteStream(draft));
      await rename(draft, path);
    } catch (error) {
      await rm(draft, { force: true });
      throw error;
    }
  }

  async get(key: string, range?: ByteRange): Promise<Blob | null> {
    const bytes = await this.bytesOf(key);
    if (bytes === null) return null;
    return { stream: createReadStream(this.#path(key), range ? { start: range.start, end: range.end } : {}), bytes };
  }

  async bytesOf(key: string): Promise<number | null> {
    const found = await stat(this.#path(key)).catch(() => null);
    return found?.isFile() ? found.size : null;
  }

  async *list(prefix: string): AsyncIterable<ListedBlob> {
    const entries = await readdir(this.#path(prefix), { withFileTypes: true }).catch(() => []);
    for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const key = `${prefix}${entry.name}`;
      if (entry.isDirectory()) yield* this.list(`${key}/`);
      else if (!key.endsWith('.draft')) {
        const found = await stat(this.#path(key)).catch(() => null); // removed meanwhile
        if (found) yield { key, bytes: found.size, changedAtMs: found.mtimeMs };
      }
    }
  }

  async remove(key: string): Promise<void> {
    await rm(this.#path(key), { force: true });
  }

  async removePrefix(prefix: string): Promise<void> {
    await rm(this.#path(prefix), { recursive: true, force: true });
  }

  folderOf(prefix: string): string {
    return this.#path(prefix);
  }

  async check(): Promise<void> {
    await access(this.root, constants.W_OK);
  }

  /** @throws Error for a key that would lead out of the folder */
  #path(key: string): string {
    if (key.split('/').some((part) => part === '..' || part === '.') || key.startsWith('/'))
      throw new Error(`“${key}” is no key of a blob`);
    return join(this.root, key);
  }
}
