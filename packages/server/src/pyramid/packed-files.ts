import { createWriteStream, writeFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setImmediate as nextTurn } from 'node:timers/promises';
import { promisify } from 'node:util';
import { createGzip, gzip, gzipSync, type ZlibOptions } from 'node:zlib';

const pack = promisify<Uint8Array, ZlibOptions, Buffer>(gzip);

/** Bytes that may wait for being packed. */
const MOST_WAITING_BYTES = 1 << 23;
/** What is packed comes in pieces of this size at most. */
const PIECE_BYTES = 1 << 17;
/** How long this thread packs without listening to others, ms. */
const LISTEN_EVERY_MS = 100;

/** How hard is tried to make tiles small: the next level makes them a thousandth smaller and takes a third longer. */
export const TILE_LEVEL = 5;

/** What is larger is written while it is packed. */
const LARGE_BYTES = 1 << 24;

function* piecesOf(bytes: Uint8Array): Generator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += PIECE_BYTES) yield bytes.subarray(at, at + PIECE_BYTES);
}

/**
 * Packs and writes files: beside this thread, which goes on making them, but not far ahead; or here, which takes a quarter less
 * of all processors' time and is quicker where every one of them has a thread that makes files.
 */
export class PackedFiles {
  readonly #pending = new Set<Promise<void>>();
  #waitingBytes = 0;
  #listenedAtMs = performance.now();

  constructor(
    private readonly folder: string,
    private readonly where: 'here' | 'beside',
  ) {}

  /**
   * Writes `name.gz`; comes back once there is room for more.
   * @param level how hard is tried to make it small, 1 … 9
   */
  async add(name: string, bytes: Uint8Array, level: number): Promise<void> {
    const path = join(this.folder, `${name}.gz`);
    if (this.where === 'here' && bytes.length <= LARGE_BYTES) {
      writeFileSync(path, gzipSync(bytes, { level, chunkSize: PIECE_BYTES }));
      await this.#listen();
      return;
    }
    this.#waitingBytes += bytes.length;
    const packed =
      bytes.length > LARGE_BYTES
        ? pipeline(Readable.from(piecesOf(bytes)), createGzip({ level }), createWriteStream(path))
        : pack(bytes, { level, chunkSize: PIECE_BYTES }).then((whole) => writeFile(path, whole));
    const work = packed.finally(() => {
      this.#waitingBytes -= bytes.length;
      this.#pending.delete(work);
    });
    this.#pending.add(work);
    while (this.#waitingBytes > MOST_WAITING_BYTES) await Promise.race(this.#pending);
  }

  async finish(): Promise<void> {
    await Promise.all(this.#pending);
  }

  /** Lets messages of other threads and processes in, now and then. */
  async #listen(): Promise<void> {
    if (performance.now() - this.#listenedAtMs < LISTEN_EVERY_MS) return;
    await nextTurn();
    this.#listenedAtMs = performance.now();
  }
}
