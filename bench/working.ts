/** What tools ask for while one works: what a point is drawn to, and the area around a place. */
import type { Page } from '@playwright/test';
import type { Camera } from '@gull-pane/core/camera/camera';
import { seededRandom } from '@gull-pane/core/geometry/random';
import type { ShapeChunk } from '@gull-pane/core/pick/object-chunk';
import type { Picker } from '@gull-pane/core/pick/picker';
import { flood } from '@gull-pane/core/planar/flood';
import { curvesOf, spansNear } from '@gull-pane/core/snap/curve';
import { flatSnaps } from '@gull-pane/core/snap/flat-snaps';
import { rankSnaps, snapKinds } from '@gull-pane/core/snap/snap';
import { plain, ratio, type Figure } from './statistics.ts';

const PLACES = 200;
const MOST_SNAPPED = 400;
const everything = (): boolean => true;

/** All kinds of snaps at places of the drawing, against going through all objects. */
export async function measureSnaps(
  picker: Picker,
  chunks: readonly ShapeChunk[],
  radius: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const { boxes, origin } = picker.index.columns;
  const kinds = new Set(snapKinds);
  const ours: number[] = [];
  const peer: number[] = [];
  let places = 0;
  for (let i = 0; i < PLACES; i++) {
    const entry = Math.floor((i * picker.index.length) / PLACES);
    const at = { x: boxes[4 * entry]! + origin.x, y: boxes[4 * entry + 1]! + origin.y };
    const question = { at, radius, from: { x: at.x + 1000, y: at.y - 700 }, kinds };
    let began = performance.now();
    const paths = await picker.pathsNear(at, radius, everything, MOST_SNAPPED);
    const found = rankSnaps(flatSnaps(paths, question), 1e-9 * radius);
    ours.push(performance.now() - began);
    places += found.length > 0 ? 1 : 0;
    if (i % 40 !== 0) continue;
    began = performance.now();
    const near = [];
    for (const chunk of chunks)
      for (let k = 0; k < chunk.length; k++) {
        const { path } = chunk.at(k)!;
        if (curvesOf(path, at).some((curve) => spansNear(curve, radius).length > 0)) near.push(path);
      }
    rankSnaps(flatSnaps(near, question), 1e-9 * radius);
    peer.push(performance.now() - began);
  }
  console.log(`snaps: at ${places} of ${PLACES} places, ${Math.max(...ours).toFixed(1)} ms at most`);
  keep(ratio('snap', 0.02, 'going through all objects', { ours, peer }));
}

const LINES = 100_000;
const CLICKS = 400;
/** After so many the picture isn't drawn any more. */
const COMPARED = 40;
const VIEW = { widthPx: 1600, heightPx: 900 } as const;

/** The area around places among 100,000 lines in sight, against one picture of them. */
export async function measureFlood(
  page: Page,
  serve: (name: string, bytes: Buffer) => unknown,
  drawing: string,
  keep: (figure: Figure) => void,
): Promise<void> {
  const camera: Camera = await page.evaluate(async (id) => {
    await window.bench.open(id);
    return window.bench.extentsCamera();
  }, drawing);
  const random = seededRandom(9);
  const [halfX, halfY] = [0.45 * VIEW.widthPx * camera.unitsPerPx, 0.45 * VIEW.heightPx * camera.unitsPerPx];
  const lines: number[] = [-halfX, -halfY, halfX, -halfY, halfX, -halfY, halfX, halfY];
  lines.push(halfX, halfY, -halfX, halfY, -halfX, halfY, -halfX, -halfY);
  // rooms of all sizes, and lines across them
  while (lines.length < 4 * LINES) {
    const [x, y] = [(2 * random() - 1) * halfX, (2 * random() - 1) * halfY];
    const [w, h] = [0.03 * halfX * random() ** 2, 0.03 * halfX * random() ** 2];
    if (random() < 0.4) lines.push(x, y, x + w * (random() - 0.5), y + h);
    else lines.push(x, y, x + w, y, x + w, y, x + w, y + h, x + w, y + h, x, y + h, x, y + h, x, y);
  }
  const at = { x: camera.target.x, y: camera.target.y };
  serve('flood.bin', Buffer.from(Float32Array.from(lines).buffer));
  await page.evaluate(([url, anchor]) => window.bench.loadBare(url, anchor), ['/bench/flood.bin', at] as const);
  const ours: number[] = [];
  const peer: number[] = [];
  let closed = 0;
  for (let click = 0; click < CLICKS; click++) {
    const [x, y] = [(2 * random() - 1) * 0.9 * halfX, (2 * random() - 1) * 0.9 * halfY];
    const segments = Float64Array.from(lines);
    const began = performance.now();
    for (let i = 0; i < segments.length; i += 2) {
      segments[i]! -= x;
      segments[i + 1]! -= y;
    }
    const found = flood(segments, { tolerance: 1e-6 * halfX, widestGap: 0.05 * halfX });
    ours.push(performance.now() - began);
    if (found.kind === 'closed') closed++;
    if (click < COMPARED) peer.push(await page.evaluate((view) => window.bench.drawBare(view).ms, camera));
  }
  console.log(`flooding: ${lines.length / 4} lines, ${closed} of ${CLICKS} places closed`);
  keep(ratio('hatch-flood', 2, 'one picture of the lines', { ours: ours.slice(5, COMPARED), peer: peer.slice(5) }));
  keep(plain('hatch-flood-worst', 300, 'ms', '–', Math.max(...ours)));
}
