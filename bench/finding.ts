/** Looking things up: what lies under a cursor, what a box takes, what a text is called; each against going through all. */
import { gunzipSync } from 'node:zlib';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { clipSegment } from '@gull-pane/core/geometry/clip';
import { editDistance } from '@gull-pane/core/find/edit-distance';
import { TextIndex, folded } from '@gull-pane/core/find/text-index';
import { flattenPath } from '@gull-pane/core/drawing/flatten';
import { ShapeChunk, type ObjectShape } from '@gull-pane/core/pick/object-chunk';
import { OBJECTS_PER_CHUNK, ObjectIndex, decodeObjectColumns } from '@gull-pane/core/pick/object-index';
import { Picker } from '@gull-pane/core/pick/picker';
import type { Region } from '@gull-pane/core/pick/region';
import { manyTexts } from '@gull-pane/demo/many-texts';
import { measureSnaps } from './working.ts';
import { median, plain, ratio, type Figure } from './statistics.ts';

/** Places that are pointed at, and boxes of each size. */
const PLACES = 200;
const BOXES = 5;
/** Shares of the objects that the boxes hold, about. */
const SHARES = [0.01, 0.1, 0.6];

/** @param tiles where the drawing's files are */
export async function measurePicking(tiles: string, keep: (figure: Figure) => void): Promise<void> {
  const file = (name: string): Uint8Array => new Uint8Array(gunzipSync(readFileSync(join(tiles, `${name}.gz`))));
  const index = new ObjectIndex(decodeObjectColumns(file('objects.index')));
  const chunks: ShapeChunk[] = [];
  for (let chunk = 0; chunk * OBJECTS_PER_CHUNK < index.length; chunk++)
    chunks.push(new ShapeChunk(file(`${chunk}.objects`)));
  const picker = new Picker(index, (chunk) => Promise.resolve(chunks[chunk]!));
  const { origin, boxes } = index.columns;
  const segments = segmentsOf(
    chunks.flatMap((chunk): ObjectShape[] => Array.from({ length: chunk.length }, (_, i) => chunk.at(i)!)),
    origin,
  );
  const everything = (): boolean => true;

  // places on what is drawn, a px being a thousandth of a screen that shows a twentieth of the drawing
  const { width, left, bottom, height } = spanOf(boxes);
  const radius = (6 * width) / 20 / 1000;
  const ours: number[] = [];
  const loop: number[] = [];
  for (let i = 0; i < PLACES; i++) {
    const entry = Math.floor((i * index.length) / PLACES);
    const place = { x: boxes[4 * entry]! + origin.x, y: boxes[4 * entry + 1]! + origin.y };
    ours.push(await timed(() => picker.at(place, radius, everything)));
    if (i % 10 === 0) loop.push(timedNow(() => nearestOf(segments, place.x - origin.x, place.y - origin.y, radius)));
  }
  keep(ratio('hover', 0.02, 'a loop over all segments', { ours, peer: loop }));

  await measureSnaps(picker, chunks, 2 * radius, keep);

  const ratios: number[] = [];
  for (const share of SHARES) {
    const side = Math.sqrt(share);
    const own: number[] = [];
    const all: number[] = [];
    for (let i = 0; i < BOXES; i++) {
      const region: Region = {
        middle: {
          x: left + width * (side / 2 + ((1 - side) * i) / BOXES) + origin.x,
          y: bottom + height * (side / 2 + ((1 - side) * i) / BOXES) + origin.y,
        },
        right: { x: 1, y: 0 },
        halfWidth: (side * width) / 2,
        halfHeight: (side * height) / 2,
      };
      own.push(await timed(() => picker.within(region, everything)));
      all.push(timedNow(() => boxOf(segments, region, origin)));
    }
    ratios.push(median(own) / median(all));
  }
  keep(plain('box-pick', 0.5, 'ratio', 'a loop over all segments, worst of three sizes', Math.max(...ratios), ratios));
}

/** The median of 200 queries over 200,000 texts against looking at every text, and at every word with slips. */
export function measureFinding(keep: (figure: Figure) => void): void {
  const { texts, queries } = manyTexts(200_000, 200);
  const index = new TextIndex(texts);
  const plainTexts = texts.map(folded);
  const scan = (typed: string): number => {
    const wanted = folded(typed);
    let found = plainTexts.reduce((count, text) => count + (text.includes(wanted) ? 1 : 0), 0);
    if (found > 0) return found;
    const words = wanted.split(' ');
    for (const text of plainTexts) {
      const own = text.split(' ');
      if (words.every((word) => own.some((other) => editDistance(word, other, 2) <= 2))) found++;
    }
    return found;
  };
  const ours: number[] = [];
  const peer: number[] = [];
  queries.forEach(({ typed }, i) => {
    ours.push(timedNow(() => index.find(typed, 8)));
    if (i % 10 < 2) peer.push(timedNow(() => scan(typed)));
  });
  keep(ratio('find-200k', 0.5, 'an unindexed scan', { ours, peer }));
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const begin = performance.now();
  await work();
  return performance.now() - begin;
}

function timedNow(work: () => unknown): number {
  const begin = performance.now();
  work();
  return performance.now() - begin;
}

interface Segments {
  /** x0, y0, x1, y1 relative to the index's origin. */
  readonly xy: Float64Array;
  readonly object: Uint32Array;
  readonly objects: number;
}

function segmentsOf(shapes: readonly ObjectShape[], origin: { x: number; y: number }): Segments {
  const xy: number[][] = [];
  const object: number[] = [];
  shapes.forEach(({ path }, entry) => {
    let [x0, y0] = [0, 0];
    const line = (x: number, y: number): void => {
      xy.push([x0 - origin.x, y0 - origin.y, x - origin.x, y - origin.y]);
      object.push(entry);
      [x0, y0] = [x, y];
    };
    const move = (x: number, y: number): void => {
      [x0, y0] = [x, y];
    };
    flattenPath(path, { move, line, close: () => undefined });
  });
  const all = new Float64Array(4 * xy.length);
  xy.forEach((four, i) => all.set(four, 4 * i));
  return { xy: all, object: Uint32Array.from(object), objects: shapes.length };
}

function spanOf(boxes: Float32Array): { left: number; bottom: number; width: number; height: number } {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < boxes.length; i += 4) {
    [minX, minY] = [Math.min(minX, boxes[i]!), Math.min(minY, boxes[i + 1]!)];
    [maxX, maxY] = [Math.max(maxX, boxes[i + 2]!), Math.max(maxY, boxes[i + 3]!)];
  }
  return { left: minX, bottom: minY, width: maxX - minX, height: maxY - minY };
}

function nearestOf({ xy }: Segments, x: number, y: number, radius: number): number {
  let [best, which] = [radius * radius, -1];
  for (let i = 0; i < xy.length; i += 4) {
    const [dx, dy] = [xy[i + 2]! - xy[i]!, xy[i + 3]! - xy[i + 1]!];
    const square = dx * dx + dy * dy;
    let t = square > 0 ? ((x - xy[i]!) * dx + (y - xy[i + 1]!) * dy) / square : 0;
    t = t < 0 ? 0 : t > 1 ? 1 : t;
    const [ex, ey] = [xy[i]! + dx * t - x, xy[i + 1]! + dy * t - y];
    const distance = ex * ex + ey * ey;
    if (distance < best) [best, which] = [distance, i];
  }
  return which;
}

/** Counts what a box holds wholly and what it touches, object by object. */
function boxOf(
  { xy, object, objects }: Segments,
  { middle, halfWidth, halfHeight }: Region,
  origin: { x: number; y: number },
): number {
  const [x, y] = [middle.x - origin.x, middle.y - origin.y];
  const box = { minX: x - halfWidth, minY: y - halfHeight, maxX: x + halfWidth, maxY: y + halfHeight };
  const touched = new Uint8Array(objects);
  const outside = new Uint8Array(objects);
  const share: [number, number] = [0, 1];
  for (let i = 0; i < object.length; i++) {
    const at = 4 * i;
    if (clipSegment(xy[at]!, xy[at + 1]!, xy[at + 2]!, xy[at + 3]!, box, share)) {
      touched[object[i]!] = 1;
      if (share[0] > 0 || share[1] < 1) outside[object[i]!] = 1;
    } else outside[object[i]!] = 1;
  }
  let count = 0;
  for (let entry = 0; entry < objects; entry++) if (touched[entry]) count += outside[entry] ? 1 : 2;
  return count;
}
