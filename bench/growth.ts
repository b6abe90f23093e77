/** How what a person waits for grows with the drawing: the exponent of time over size, from the smallest to the largest. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { Browser, Page } from '@playwright/test';
import { ShapeChunk } from '@gull-pane/core/pick/object-chunk';
import { ObjectIndex, decodeObjectColumns } from '@gull-pane/core/pick/object-index';
import { Picker } from '@gull-pane/core/pick/picker';
import { flatSnaps } from '@gull-pane/core/snap/flat-snaps';
import { rankSnaps, snapKinds } from '@gull-pane/core/snap/snap';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { RunningApp } from '../e2e/app.ts';
import { largeDrawing } from './files.ts';
import { importFile } from './importing.ts';
import { measureTour } from './memory.ts';
import { median, plain, type Figure } from './statistics.ts';

/** At most so many lines are drawn in the close view. */
const DETAIL_LINES = 20_000;
/** Places that are pointed at. */
const PLACES = 100;
/** Of hover and snaps, CSS px. */
const RADIUS_PX = 6;
/** What a tour may take, MB above a page with nothing open, from the smallest drawing to the largest. */
const MOST_MB = [250, 350, 450];

const kinds = ['extents', 'detail', 'hover', 'fit', 'snap'] as const;
type Times = Record<(typeof kinds)[number], number>;

/**
 * @param sizes segments of three drawings
 * @param known a drawing that is there, with its size
 */
export async function measureGrowth(
  at: Browser,
  page: Page,
  app: RunningApp,
  dataFolder: string,
  sizes: readonly number[],
  known: { readonly segments: number; readonly drawing: DrawingDto },
  options: { readonly samples: number; readonly tourSeconds: number },
  keep: (figure: Figure) => void,
): Promise<void> {
  const taken: Times[] = [];
  for (const [place, segments] of sizes.entries()) {
    const drawing =
      segments === known.segments ? known.drawing : await importFile(app.url, largeDrawing(segments).svg, 'Grown.svg');
    taken.push(
      await timesOf(
        page,
        join(dataFolder, 'drawings', drawing.id, `r${drawing.revision}`, 'tiles'),
        drawing.id,
        options.samples,
      ),
    );
    console.log(
      `${segments} segments: ${kinds.map((kind) => `${kind} ${taken[place]![kind].toPrecision(3)} ms`).join(', ')}`,
    );
    if (segments === known.segments) continue; // its tour is a figure of its own
    const { peakMb } = await measureTour(at, app.url, drawing.id, options.tourSeconds);
    keep(plain(`memory-mb-${shortSize(segments)}`, MOST_MB[place]!, 'MB', 'a page with nothing open', peakMb));
  }
  for (const kind of kinds) {
    const samples = taken.map((times) => times[kind]);
    const exponent = Math.log(samples.at(-1)! / samples[0]!) / Math.log(sizes.at(-1)! / sizes[0]!);
    keep(
      plain(
        `growth-${kind}`,
        0.15,
        'exponent',
        `time at ${sizes.map(shortSize).join(', ')} segments`,
        exponent,
        samples,
      ),
    );
  }
}

const shortSize = (segments: number): string => (segments >= 1e6 ? `${segments / 1e6}m` : `${segments / 1e3}k`);

async function timesOf(page: Page, tiles: string, id: string, samples: number): Promise<Times> {
  const frames = await page.evaluate(
    async ([id, samples, lines]) => {
      const { bench } = window;
      await bench.open(id);
      const whole = await bench.framesAt(bench.extentsCamera(), samples);
      const close = await bench.closeCamera(lines);
      const near = await bench.framesAt(close, samples);
      const fits = Array.from({ length: samples }, (_, i) => bench.fitMs(0.37 * i, 200));
      return { whole, near, fits, unitsPerPx: close.unitsPerPx };
    },
    [id, samples, DETAIL_LINES] as const,
  );
  const { hover, snap } = await lookUps(tiles, RADIUS_PX * frames.unitsPerPx);
  const [extents, detail, fit] = [frames.whole, frames.near, frames.fits].map(median) as [number, number, number];
  return { extents, detail, hover, fit, snap };
}

/** What lies under a cursor, and what a point is drawn to; chunks that were asked for before are at hand. */
async function lookUps(tiles: string, radius: number): Promise<{ readonly hover: number; readonly snap: number }> {
  const file = (name: string): Uint8Array => new Uint8Array(gunzipSync(readFileSync(join(tiles, `${name}.gz`))));
  const chunks = new Map<number, ShapeChunk>();
  const chunkOf = (chunk: number): ShapeChunk => {
    const known = chunks.get(chunk) ?? new ShapeChunk(file(`${chunk}.objects`));
    chunks.set(chunk, known);
    return known;
  };
  const picker = new Picker(new ObjectIndex(decodeObjectColumns(file('objects.index'))), (chunk) =>
    Promise.resolve(chunkOf(chunk)),
  );
  const { boxes, origin } = picker.index.columns;
  const everything = (): boolean => true;
  const [hover, snap]: [number[], number[]] = [[], []];
  for (let i = 0; i < PLACES; i++) {
    const entry = Math.floor((i * picker.index.length) / PLACES);
    const at = { x: boxes[4 * entry]! + origin.x, y: boxes[4 * entry + 1]! + origin.y };
    const question = { at, radius, from: { x: at.x + 1000, y: at.y - 700 }, kinds: new Set(snapKinds) };
    const look = async (): Promise<number> => {
      const began = performance.now();
      await picker.at(at, radius, everything);
      return performance.now() - began;
    };
    const draw = async (): Promise<number> => {
      const began = performance.now();
      rankSnaps(flatSnaps(await picker.pathsNear(at, radius, everything, 400), question), 1e-9 * radius);
      return performance.now() - began;
    };
    await look();
    hover.push(await look());
    await draw();
    snap.push(await draw());
  }
  return { hover: median(hover), snap: median(snap) };
}
