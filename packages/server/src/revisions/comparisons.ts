import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Contents } from '../storage/contents.ts';
import { startThread } from '../threads/start-thread.ts';
import type { CompareOrder } from './compare-messages.ts';
import type { RevisionRow } from './revisions.ts';

/** Comparisons of revisions: made once, in a thread, and kept beside the later revision. */
export class Comparisons {
  readonly #running = new Map<string, Promise<void>>();

  constructor(private readonly contents: Contents) {}

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
    const folderOf = ({ drawingId, number }: RevisionRow): Promise<string> => this.contents.revision(drawingId, number);
    const [earlier, later] = [await folderOf(from), await folderOf(to)];
    const outFile = join(later, `comparison-${from.number}-${tolerance}.json`);
    const sameFile = join(later, `same-${from.number}-${tolerance}.bin`);
    const files = { outFile, sameFile };
    if (existsSync(outFile) && existsSync(sameFile)) return files;
    // who asks for the same meanwhile waits for the same
    let running = this.#running.get(outFile);
    if (!running) {
      const order: CompareOrder = {
        from: { number: from.number, folder: earlier, layers: from.layers },
        to: { number: to.number, folder: later, layers: to.layers },
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
