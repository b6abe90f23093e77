import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { BlobStore } from './blob-store.ts';

/** What was used within this time may still be read: it isn't removed, ms. */
const IN_USE_MS = 15 * 60_000;
const PARALLEL_FILES = 8;

interface Copy {
  readonly folder: Promise<string>;
  bytes: number;
  usedAtMs: number;
}

/** Copies on this machine of blobs that lie elsewhere: all below a prefix as a folder, made when it is needed. */
export class LocalCopies {
  readonly #copies = new Map<string, Copy>();
  #made = 0;

  /**
   * @param root for copies alone; emptied by who starts the server
   * @param mostBytes beyond it those that weren't used for longest are removed
   */
  constructor(
    private readonly blobs: BlobStore,
    private readonly root: string,
    private readonly mostBytes: number,
  ) {}

  /** @returns a folder with everything below a prefix; who asks for the same meanwhile waits for the same */
  async folder(prefix: string): Promise<string> {
    let copy = this.#copies.get(prefix);
    if (!copy) {
      const made: Copy = { folder: this.#fetch(prefix, (bytes) => (made.bytes += bytes)), bytes: 0, usedAtMs: 0 };
      copy = made;
      this.#copies.set(prefix, copy);
      made.folder.then(
        () => this.#tidy(),
        () => this.#copies.delete(prefix),
      );
    }
    copy.usedAtMs = Date.now();
    return copy.folder;
  }

  /** Takes a folder of this machine for the copy of a prefix whose blobs were made of it. */
  async adopt(folder: string, prefix: string): Promise<void> {
    await this.forget(prefix);
    let bytes = 0;
    for await (const blob of this.blobs.list(prefix)) bytes += blob.bytes;
    const own = this.#newFolder();
    await mkdir(dirname(own), { recursive: true });
    await rename(folder, own);
    this.#copies.set(prefix, { folder: Promise.resolve(own), bytes, usedAtMs: Date.now() });
    await this.#tidy();
  }

  /** Removes the copies of a prefix and all below. */
  async forget(prefix: string): Promise<void> {
    for (const [own, { folder }] of this.#copies) {
      if (!own.startsWith(prefix)) continue;
      this.#copies.delete(own);
      await folder.then((path) => rm(path, { recursive: true, force: true })).catch(() => undefined);
    }
  }

  async #fetch(prefix: string, onBytes: (bytes: number) => void): Promise<string> {
    const folder = this.#newFolder();
    const keys: string[] = [];
    for await (const { key, bytes } of this.blobs.list(prefix)) {
      keys.push(key);
      onBytes(bytes);
    }
    if (keys.length === 0) throw new Error(`Nothing is kept below ${prefix}`);
    const fetchOthers = async (): Promise<void> => {
      for (let key = keys.pop(); key !== undefined; key = keys.pop()) {
        const path = join(folder, key.slice(prefix.length));
        const blob = await this.blobs.get(key);
        if (!blob) continue; // removed meanwhile
        await mkdir(dirname(path), { recursive: true });
        await pipeline(blob.stream, createWriteStream(path));
      }
    };
    try {
      await Promise.all(Array.from({ length: PARALLEL_FILES }, fetchOthers));
    } catch (error) {
      await rm(folder, { recursive: true, force: true });
      throw error;
    }
    return folder;
  }

  #newFolder(): string {
    return join(this.root, String(++this.#made));
  }

  async #tidy(): Promise<void> {
    let bytes = [...this.#copies.values()].reduce((sum, copy) => sum + copy.bytes, 0);
    const oldest = [...this.#copies].sort(([, a], [, b]) => a.usedAtMs - b.usedAtMs);
    for (const [prefix, copy] of oldest) {
      if (bytes <= this.mostBytes || Date.now() - copy.usedAtMs < IN_USE_MS) return;
      bytes -= copy.bytes;
      await this.forget(prefix);
    }
  }
}
