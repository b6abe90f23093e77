import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gzip, type ZlibOptions } from 'node:zlib';

const pack = promisify<Uint8Array, ZlibOptions, Buffer>(gzip);

/** Bytes that may wait for being packed. */
const MOST_WAITING_BYTES = 1 << 23;
/** What is packed comes in pieces of this size at most. */
const PIECE_BYTES = 1 << 17;

/** How hard is tried to make tiles small: the next level makes them a thousandth smaller and takes a third longer. */
export const TILE_LEVEL = 5;

/** Packs and writes files beside this thread, which goes on making them, but not far ahead. */
export class PackedFiles {
  readonly #pending = new Set<Promise<void>>();
  #waitingBytes = 0;

  constructor(private readonly folder: string) {}

  /**
   * Writes `name.gz`; comes back once there is room for more.
   * @param level how hard is tried to make it small, 1 … 9
   */
  async add(name: string, bytes: Uint8Array, level: number): Promise<void> {
    this.#waitingBytes += bytes.length;
    const work = pack(bytes, { level, chunkSize: PIECE_BYTES })
      .then((packed) => writeFile(join(this.folder, `${name}.gz`), packed))
      .finally(() => {
        this.#waitingBytes -= bytes.length;
        this.#pending.delete(work);
      });
    this.#pending.add(work);
    while (this.#waitingBytes > MOST_WAITING_BYTES) await Promise.race(this.#pending);
  }

  async finish(): Promise<void> {
    await Promise.all(this.#pending);
  }
}
