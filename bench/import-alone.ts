/**
 * Imports one file in this process alone, and prints how long it took and how much memory lay in RAM at most.
 * usage: tsx bench/import-alone.ts FILE
 */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { importFlat } from '../packages/server/src/jobs/import-flat.ts';
import { importSolid } from '../packages/server/src/jobs/import-solid.ts';
import { modelFormatOfFile } from '../packages/server/src/jobs/read-model.ts';

const [, , sourcePath = ''] = process.argv;
const outFolder = mkdtempSync(join(tmpdir(), 'gull-pane-alone-'));
try {
  const order = {
    sourcePath,
    outFolder,
    tileAddressPrefix: '',
    limits: { maxElements: 20_000_000, maxUnpackedBytes: 2 ** 32 },
  };
  const began = performance.now();
  const format = await modelFormatOfFile(sourcePath);
  const ignore = (): void => undefined;
  const { counts } = await (format ? importSolid(order, format, ignore) : importFlat(order, ignore));
  const seconds = (performance.now() - began) / 1000;
  const peakMb = Number(/VmHWM:\s*(\d+) kB/.exec(readFileSync('/proc/self/status', 'utf8'))![1]) / 1024;
  console.log(JSON.stringify({ seconds, peakMb, counts }));
} finally {
  rmSync(outFolder, { recursive: true, force: true });
}
