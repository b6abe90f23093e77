import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { DataFolder } from '../storage/data-folder.ts';
import { startThread } from '../threads/start-thread.ts';
import type { CompareOrder } from './compare-messages.ts';
import type { RevisionRow } from './revisions.ts';

/** Comparisons of revisions: made once, in a thread, and kept beside the later revision. */
export class Comparisons {
  readonly #running = new Map<string, Promise<void>>();

  constructor(private readonly folder: DataFolder) {}

  /** @returns the file that holds the comparison as JSON */
  async file(from: RevisionRow, to: RevisionRow, tolerance: number): Promise<string> {
    return (await this.#files(from, to, tolerance)).outFile;
  }

  /** @returns of each object of the later revision the one of the earlier that it is unchanged; −1 for all others */
  async same(from: RevisionRow, to: RevisionRow, tolerance: number): Promise<Int32Array> {
    const { sameFile } = await this.#files(from, to, tolerance);
    const bytes = await readFile(sameFile);
    return new Int32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  }

  async #files(from: RevisionRow, to: RevisionRow, tolerance: number): Promise<{ outFile: string; sameFile: string }> {
    const folderOf = ({ drawingId, number }: RevisionRow): string => this.folder.revision(drawingId, number);
    const outFile = join(folderOf(to), `comparison-${from.number}-${tolerance}.json`);
    const sameFile = join(folderOf(to), `same-${from.number}-${tolerance}.bin`);
    const files = { outFile, sameFile };
    if (existsSync(outFile) && existsSync(sameFile)) return files;
    // who asks for the same meanwhile waits for the same
    let running = this.#running.get(outFile);
    if (!running) {
      const order: CompareOrder = {
        from: { number: from.number, folder: folderOf(from), layers: from.layers },
        to: { number: to.number, folder: folderOf(to), layers: to.layers },
        kind: to.kind,
        tolerance,
        outFile,
        sameFile,
      };
      running = compare(order).finally(() => this.#running.delete(outFile));
      this.#running.set(outFile, running);
    }
    await running;
    return files;
  }
}

/** @throws what the thread failed with */
async function compare(order: CompareOrder): Promise<void> {
  const thread = startThread('compare-thread', order);
  try {
    await once(thread, 'message');
  } finally {
    await thread.terminate();
  }
}
