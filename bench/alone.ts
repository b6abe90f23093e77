/** What imports take of time and memory by themselves. Linux, since nobody else tells how much lay in RAM at most. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { packGlb } from '@gull-pane/core/pyramid/glb';
import { importBuilt } from './built-import.ts';
import { largeDrawing } from './files.ts';
import { plain, type Figure } from './statistics.ts';

const NODES = 1_000_000;
const MILLION = 1_000_000;

/** A million nodes of one triangle, side by side on a square. */
function manyNodes(): Uint8Array {
  const side = Math.sqrt(NODES);
  const nodes = Array.from({ length: NODES }, (_, i) => ({
    mesh: 0,
    translation: [2 * (i % side), 0, 2 * Math.floor(i / side)],
  }));
  const json = {
    asset: { version: '2.0' },
    buffers: [{ byteLength: 36 }],
    bufferViews: [{ buffer: 0, byteLength: 36 }],
    accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3' }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
    nodes,
    scenes: [{ nodes: nodes.map((_, i) => i) }],
  };
  return packGlb(json, new Uint8Array(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0).buffer));
}

/** @param isQuick leaves ten millions out */
export async function measureAlone(isQuick: boolean, keep: (figure: Figure) => void): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'gull-pane-alone-'));
  try {
    const file = join(folder, 'nodes.glb');
    writeFileSync(file, manyNodes());
    const nodes = await importBuilt(file);
    keep(plain('import-nodes', 60, 's', '–', nodes.seconds));
    keep(plain('import-nodes-peak', 2048, 'MB', '–', nodes.peakMb));
    const one = await importBuilt(largeDrawing(MILLION).svg);
    keep(plain('import-peak', 600, 'MB', '–', one.peakMb));
    if (isQuick) return;
    const ten = await importBuilt(largeDrawing(10 * MILLION).svg);
    keep(plain('import-peak-10m', 1200, 'MB', '–', ten.peakMb));
    keep(plain('import-growth', 11, 'ratio', 'one million', ten.seconds / one.seconds));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
