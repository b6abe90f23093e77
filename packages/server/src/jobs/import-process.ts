/**
 * Reads files and builds everything that is served of them, one after another, in a process of its own: whatever a file
 * does to it, the server lives on.
 */
import { mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { Worker } from 'node:worker_threads';
import { isPdfHead } from '@gull-pane/importers/pdf/pdf-head';
import { beginsLikePicture } from '@gull-pane/importers/picture/picture-size';
import { ReadError } from '@gull-pane/importers/read-error';
import { begunInFile, importBegun } from './import-begun.ts';
import { importFlat } from './import-flat.ts';
import { importSolid } from './import-solid.ts';
import { IMPORT_PRIORITY, LOWEST_PRIORITY } from './import-priorities.ts';
import type { FromImport, ImportOrder, ImportProgress, ImportResult, OnProgress } from './import-messages.ts';
import { headOf } from './read-here.ts';
import { modelFormatOfFile } from './read-model.ts';

/** Shortest time between two progress messages, ms; a new stage is sent at once. */
const TELL_EVERY_MS = 200;
/** How often it is looked whether the server still lives, ms. */
const LOOK_FOR_SERVER_EVERY_MS = 250;

const say = (message: FromImport): void => void process.send!(message);

async function run(order: ImportOrder): Promise<ImportResult> {
  if (statSync(order.sourcePath).size >= LARGE_BYTES) yieldToSmall();
  mkdirSync(order.outFolder, { recursive: true });
  let progress: ImportProgress = { stage: 'reading', bytesRead: 0, objects: 0, tiles: 0, tilesTotal: 0 };
  let toldAtMs = -Infinity;
  const onProgress: OnProgress = (news) => {
    const isNewStage = news.stage !== progress.stage;
    progress = { ...progress, ...news };
    const nowMs = performance.now();
    if (!isNewStage && nowMs - toldAtMs < TELL_EVERY_MS) return;
    toldAtMs = nowMs;
    say({ kind: 'progress', progress });
  };
  const begun = await begunInFile(order.sourcePath);
  if (begun) return importBegun(order, begun);
  const format = await modelFormatOfFile(order.sourcePath);
  say({ kind: 'format', format: format ?? (await flatFormatOf(order.sourcePath)) });
  return format ? importSolid(order, format, onProgress) : importFlat(order, onProgress);
}

/** What a file that is no model seems to be. */
async function flatFormatOf(path: string): Promise<string> {
  const head = await headOf(path);
  if (isPdfHead(head)) return 'pdf';
  if (beginsLikePicture(head)) return 'picture';
  const begin = head
    .toString('latin1')
    .replace(/^\xef\xbb\xbf/, '')
    .trimStart();
  return begin.startsWith('{') ? 'geojson' : begin.startsWith('<') ? 'svg' : 'other';
}

/** Files from this size on give way to smaller ones. */
const LARGE_BYTES = 1 << 21;

/** Lowers all threads that there are; others that these begin are as low. The process can't be used for small files then. */
function yieldToSmall(): void {
  try {
    if (process.platform !== 'linux') setPriority(LOWEST_PRIORITY);
    else for (const thread of readdirSync('/proc/self/task')) setPriority(Number(thread), LOWEST_PRIORITY);
  } catch {
    // as below
  }
}

/** The server goes first where cores are few, and outlives this process where memory runs out. */
function yieldToServer(): void {
  try {
    setPriority(IMPORT_PRIORITY);
    if (process.platform === 'linux') writeFileSync('/proc/self/oom_score_adj', '1000');
  } catch {
    // where it isn't allowed, the import is merely less polite
  }
}

/** Ends with the server, also where that was killed and this process is too busy to hear of it. */
function endWithServer(): void {
  process.on('disconnect', () => process.exit());
  // a signal for the whole group is the server's to answer
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => undefined);
  const watch = `const server = process.ppid;
setInterval(() => process.ppid === server || process.kill(process.pid, 'SIGKILL'), ${LOOK_FOR_SERVER_EVERY_MS});`;
  new Worker(watch, { eval: true }).unref();
}

const failure = (error: unknown): FromImport =>
  error instanceof ReadError
    ? { kind: 'refused', code: error.code, message: error.message, ...(error.place ?? {}) }
    : { kind: 'failed', message: error instanceof Error ? (error.stack ?? error.message) : String(error) };

yieldToServer();
endWithServer();
process.on('uncaughtException', (error) => say(failure(error)));
process.on('message', (order: ImportOrder) => {
  run(order).then(
    (result) => say({ kind: 'done', result }),
    (error: unknown) => say(failure(error)),
  );
});
