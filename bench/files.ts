/** The drawings that are measured, and the floors that are made of them. Everything is kept in .cache/bench. */
import { createReadStream, closeSync, existsSync, mkdirSync, openSync, writeFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Writable } from 'node:stream';
import { createGzip } from 'node:zlib';
import { flattenPath, within } from '@gull-pane/core/drawing/flatten';
import { writeLargeDrawing } from '@gull-pane/demo/large-drawing';
import { writeSitePlan } from '@gull-pane/demo/site-plan';
import { SvgReader } from '@gull-pane/importers/svg/read-svg';
import { readFileSync } from 'node:fs';

const folder = '.cache/bench';
const SHEET_CORNER = [412_300_000, 7_208_200_000] as const;

/** Writes a drawing once. @returns its path */
function once(name: string, make: (write: (text: string) => void) => void): string {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, name);
  if (existsSync(path)) return path;
  const file = openSync(`${path}.part`, 'w');
  let waiting = '';
  make((text) => {
    waiting += text;
    if (waiting.length < 1 << 20) return;
    writeSync(file, waiting);
    waiting = '';
  });
  writeSync(file, waiting);
  closeSync(file);
  writeFileSync(path, readFileSync(`${path}.part`));
  return path;
}

export interface DrawingFiles {
  /** On the grid. */
  readonly svg: string;
  /** The same at the origin, for browsers. */
  readonly atOrigin: string;
}

/** Makes a browser show the whole of a plan: its size in millimetres would be that of the site. */
const fitted =
  (write: (text: string) => void) =>
  (text: string): void =>
    write(text.replace(/ width="[\d.]+mm" height="[\d.]+mm"/, ' width="1280" height="800"'));

export const largeDrawing = (segments: number): DrawingFiles => ({
  svg: once(`large-${segments}.svg`, (write) => writeLargeDrawing(segments, 1, write)),
  atOrigin: once(`large-${segments}-for-browsers.svg`, (write) =>
    writeLargeDrawing(segments, 1, fitted(write), SHEET_CORNER),
  ),
});

export const sitePlan = (): DrawingFiles => ({
  svg: once('site.svg', (write) => writeSitePlan(write)),
  atOrigin: once('site-for-browsers.svg', (write) => writeSitePlan(fitted(write), SHEET_CORNER)),
});

/**
 * Every line of a file as it must be drawn at a scale, relative to an anchor.
 * @param chordError of curves, drawing units
 * @returns x0, y0, x1, y1 of each
 */
export function bareLines(svg: string, anchor: { x: number; y: number }, chordError: number): Float32Array {
  const ends: number[] = [];
  const parts: Float32Array[] = [];
  const closeness = within(chordError);
  let [lastX, lastY, startX, startY] = [0, 0, 0, 0];
  const add = (x: number, y: number): void => {
    ends.push(lastX - anchor.x, lastY - anchor.y, x - anchor.x, y - anchor.y);
    [lastX, lastY] = [x, y];
    if (ends.length < 1 << 18) return;
    parts.push(Float32Array.from(ends));
    ends.length = 0;
  };
  const reader = new SvgReader({
    path: ({ path, lineStyle }) => {
      if (lineStyle < 0) return;
      flattenPath(
        path,
        {
          move: (x, y) => {
            [lastX, lastY, startX, startY] = [x, y, x, y];
          },
          line: add,
          close: () => {
            [lastX, lastY] = [startX, startY];
          },
        },
        closeness,
      );
    },
    text: () => undefined,
    picture: () => undefined,
  });
  reader.write(readFileSync(svg, 'utf8'));
  reader.end();
  parts.push(Float32Array.from(ends));
  const all = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

/** Size of a file as a server would send it. */
export async function gzippedBytes(path: string): Promise<number> {
  let bytes = 0;
  const count = new Writable({
    write(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      done();
    },
  });
  await pipeline(createReadStream(path), createGzip({ level: 6 }), count);
  return bytes;
}
