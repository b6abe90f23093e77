/** A shape without a flat or a repeated part: every point of it may be a corner of its hull. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { importBuilt } from './built-import.ts';
import { ratio, type Figure } from './statistics.ts';

const ROUND = 410;
const UP = 404;
const RADIUS = 1000;
/** Of the radius. */
const NOISE = 0.04;

/** A noisy ball of 330,000 triangles. */
function noisyBall(): string {
  const random = seededRandom(11);
  const lines = ['o Ball'];
  for (let row = 0; row <= UP; row++)
    for (let column = 0; column < ROUND; column++) {
      const [tilt, turn] = [(Math.PI * row) / UP, (2 * Math.PI * column) / ROUND];
      const radius = RADIUS * (1 + NOISE * (random() - 0.5));
      const [x, y, z] = [Math.sin(tilt) * Math.cos(turn), Math.sin(tilt) * Math.sin(turn), Math.cos(tilt)];
      lines.push(`v ${(radius * x).toFixed(4)} ${(radius * y).toFixed(4)} ${(radius * z).toFixed(4)}`);
    }
  for (let row = 0; row < UP; row++)
    for (let column = 0; column < ROUND; column++) {
      const at = (r: number, c: number): number => 1 + r * ROUND + (c % ROUND);
      lines.push(`f ${at(row, column)} ${at(row + 1, column)} ${at(row + 1, column + 1)} ${at(row, column + 1)}`);
    }
  return lines.join('\n');
}

/** @param samples how often the import is measured */
export async function measureOrganic(samples: number, keep: (figure: Figure) => void): Promise<void> {
  const text = noisyBall();
  const folder = mkdtempSync(join(tmpdir(), 'gull-pane-organic-'));
  try {
    const source = join(folder, 'ball.obj');
    writeFileSync(source, text);
    const ours: number[] = [];
    const peer: number[] = [];
    for (let i = 0; i < samples; i++) {
      ours.push(1000 * (await importBuilt(source)).seconds);
      const began = performance.now();
      new OBJLoader().parse(text);
      peer.push(performance.now() - began);
    }
    keep(ratio('import-organic', 5, 'three’s reader of the same file', { ours, peer }));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
