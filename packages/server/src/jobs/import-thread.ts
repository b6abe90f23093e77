/** Reads one file and builds everything that is served of it, in a thread of its own. */
import { mkdirSync } from 'node:fs';
import { setPriority } from 'node:os';
import { parentPort, workerData } from 'node:worker_threads';
import { ReadError } from '@gull-pane/importers/read-error';
import { begunInFile, importBegun } from './import-begun.ts';
import { importFlat } from './import-flat.ts';
import { importSolid } from './import-solid.ts';
import type { FromImport, ImportOrder, ImportResult } from './import-messages.ts';
import { modelFormatOfFile } from './read-model.ts';

const PROGRESS_EVERY_BYTES = 1 << 19;

const order = workerData as ImportOrder;
const say = (message: FromImport): void => parentPort!.postMessage(message);

async function run(): Promise<ImportResult> {
  mkdirSync(order.outFolder, { recursive: true });
  let told = 0;
  const onProgress = (bytesRead: number, objects: number): void => {
    if (bytesRead - told < PROGRESS_EVERY_BYTES) return;
    told = bytesRead;
    say({ kind: 'progress', bytesRead, objects });
  };
  const begun = await begunInFile(order.sourcePath);
  if (begun) return importBegun(order, begun);
  const format = await modelFormatOfFile(order.sourcePath);
  return format ? importSolid(order, format, onProgress) : importFlat(order, onProgress);
}

/** Lets the thread that answers requests go first where cores are few: on Linux a priority is a thread's own. */
function yieldTheProcessor(): void {
  if (process.platform !== 'linux') return; // elsewhere it would be the whole process's
  try {
    setPriority(10);
  } catch {
    // where it isn't allowed, the import is merely less polite
  }
}

yieldTheProcessor();
try {
  say({ kind: 'done', result: await run() });
} catch (error) {
  if (error instanceof ReadError) {
    say({ kind: 'refused', code: error.code, message: error.message, ...(error.place ?? {}) });
  } else throw error;
}
