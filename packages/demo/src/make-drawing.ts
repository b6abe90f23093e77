/**
 * Makes a large drawing of the works' kind for trials and measurements.
 * usage: npm run make-drawing -- --segments 1000000 --out FILE.svg [--seed 1]
 */
import { closeSync, openSync, writeSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { writeLargeDrawing } from './large-drawing.ts';

const { values } = parseArgs({
  options: { segments: { type: 'string' }, out: { type: 'string' }, seed: { type: 'string', default: '1' } },
});
const segments = Number(values.segments);
const seed = Number(values.seed);
if (!Number.isInteger(segments) || segments < 1 || !Number.isInteger(seed) || !values.out) {
  console.error('usage: npm run make-drawing -- --segments 1000000 --out FILE.svg [--seed 1]');
  process.exit(1);
}

const file = openSync(values.out, 'w');
let waiting = '';
const written = writeLargeDrawing(segments, seed, (text) => {
  waiting += text;
  if (waiting.length < 1 << 20) return;
  writeSync(file, waiting);
  waiting = '';
});
writeSync(file, waiting);
closeSync(file);
console.log(`${values.out}: ${written} segments`);
