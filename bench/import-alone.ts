/**
 * Imports one file in a process of its own, as the built server does, and prints how long it took and how much memory of
 * it lay in RAM at most.
 * usage: tsx bench/import-alone.ts FILE
 */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { FromImport, ImportOrder } from '../packages/server/src/jobs/import-messages.ts';
import { startProcess } from '../packages/server/src/threads/start-process.ts';

/** What the script's heap may take, MB. */
const HEAP_MB = 4096;

const [, , sourcePath = ''] = process.argv;
process.env.GULL_PANE_BUILT_THREADS = resolve('packages/server/dist');
const outFolder = mkdtempSync(join(tmpdir(), 'gull-pane-alone-'));
const child = startProcess('import-process', HEAP_MB);
try {
  const order: ImportOrder = {
    sourcePath: resolve(sourcePath),
    outFolder,
    tileAddressPrefix: '',
    limits: { maxElements: 20_000_000, maxUnpackedBytes: 2 ** 32 },
  };
  const began = performance.now();
  child.send(order);
  const counts = await new Promise((take, refuse) => {
    child.once('exit', (code) => refuse(new Error(`The import’s process ended with ${code}.`)));
    child.on('message', (message: FromImport) => {
      if (message.kind === 'done') take(message.result.counts);
      else if (message.kind === 'refused' || message.kind === 'failed') refuse(new Error(message.message));
    });
  });
  const seconds = (performance.now() - began) / 1000;
  const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
  const peakMb = Number(/VmHWM:\s*(\d+) kB/.exec(status)![1]) / 1024;
  console.log(JSON.stringify({ seconds, peakMb, counts }));
} finally {
  child.kill('SIGKILL');
  rmSync(outFolder, { recursive: true, force: true });
}
