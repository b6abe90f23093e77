import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { inflateSync } from 'node:zlib';
import { createCanvas, loadImage } from '@napi-rs/canvas';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Style } from '@gull-pane/core/drawing/model';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import { placementOf, sheetOfView } from '@gull-pane/core/sheets/sheet';
import type { ExportedDrawing } from '../exported.ts';
import { printedSet } from '../testing/printed-set.ts';
import { loadPictures } from './canvas-surface.ts';
import { sheetRows, type PictureRows } from './sheet-rows.ts';
import { writePng } from './write-png.ts';
import { writeTiff } from './write-tiff.ts';

const require = createRequire(import.meta.url);
const file = readFileSync(require.resolve('@fontsource/source-sans-3/files/source-sans-3-latin-400-normal.woff'));
const fonts = { normal: [file], bold: [file] };

/** Pixels in bands of some rows. */
const rowsOf = (width: number, pixels: Uint8Array, bandRows: number): PictureRows => ({
  width,
  height: pixels.length / 3 / width,
  *bands() {
    for (let at = 0; at < pixels.length; at += 3 * width * bandRows)
      yield pixels.subarray(at, at + 3 * width * bandRows);
  },
});
const picture = fc
  .tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 30 }), fc.integer({ min: 1, max: 12 }))
  .chain(([width, height, bandRows]) =>
    fc
      .uint8Array({ minLength: 3 * width * height, maxLength: 3 * width * height })
      .map((pixels) => ({ width, height, pixels, rows: rowsOf(width, pixels, bandRows) })),
  );

/** Red, green, blue of each px, by another reader. */
async function readPng(bytes: Uint8Array): Promise<{ width: number; height: number; pixels: Uint8Array }> {
  const image = await loadImage(Buffer.from(bytes));
  const context = createCanvas(image.width, image.height).getContext('2d');
  context.drawImage(image, 0, 0);
  const { data } = context.getImageData(0, 0, image.width, image.height);
  const pixels = Uint8Array.from({ length: (data.length / 4) * 3 }, (_, i) => data[4 * Math.floor(i / 3) + (i % 3)]!);
  return { width: image.width, height: image.height, pixels };
}

describe('pictures of sheets', () => {
  it('as PNG have each px as it was, however they are cut into bands', async () => {
    await fc.assert(
      fc.asyncProperty(picture, async ({ width, height, pixels, rows }) => {
        const bytes = Buffer.concat([...writePng(rows, 300)]);
        expect(await readPng(bytes)).toEqual({ width, height, pixels: Uint8Array.from(pixels) });
        // 300 dpi are 11811 px a metre
        expect(bytes.readUInt32BE(bytes.indexOf('pHYs') + 4)).toBe(11_811);
      }),
      { numRuns: 60 },
    );
  });

  it('as TIFF have each px of each page as it was', () => {
    fc.assert(
      fc.property(fc.array(picture, { minLength: 1, maxLength: 3 }), (pages) => {
        const all = pages.map(({ rows }) => rows);
        const back = readTiff(Buffer.concat([...writeTiff(all, all.length, 254)]));
        expect(back.map(({ width, pixels }) => [width, pixels])).toEqual(
          pages.map(({ width, pixels }) => [width, Uint8Array.from(pixels)]),
        );
        for (const { dpi } of back) expect(dpi).toBe(254);
      }),
      { numRuns: 60 },
    );
  });

  it('have lines where they are on paper, at any resolution, and are the same piece by piece', async () => {
    const style: Style = { kind: 'line', layer: 0, colour: { r: 200, g: 0, b: 0, a: 255 }, width: 100, dashes: [] };
    const path = new PathBuilder().moveTo(-2000, 0).lineTo(2000, 0);
    const drawing: ExportedDrawing = {
      name: '',
      unit: 'mm',
      layers: [{ name: 'Pipes', colour: '#1f7a8c' }],
      box: { minX: 0, minY: 0, maxX: 1, maxY: 1 },
      objects: () => [{ id: 0, layer: 0, path, text: null, line: style, fill: null, fillRule: 'nonzero' }],
    };
    // wider than one piece at 600 dpi
    const sheet = sheetOfView('Plan', { widthMm: 420, heightMm: 120 }, { x: 0, y: 0, bearingRad: 0, denominator: 50 });
    const { toPaper } = placementOf(sheet.frames[0]!, 'mm');
    const [[left, level], [right]] = [toPaper(-2000, 0), toPaper(2000, 0)];
    for (const dpi of [72, 600]) {
      const { width, height, bands } = sheetRows(printedSet([sheet], drawing), 0, dpi, fonts, await loadPictures([]));
      expect([width, height]).toEqual([Math.round((420 / 25.4) * dpi), Math.round((120 / 25.4) * dpi)]);
      const pixels = Buffer.concat([...bands()]);
      const isRed = (xMm: number, yMm: number): boolean => {
        const at = 3 * (Math.floor((yMm / 25.4) * dpi) * width + Math.floor((xMm / 25.4) * dpi));
        return pixels[at] === 200 && pixels[at + 1] === 0;
      };
      // a line of 100 mm is 2 mm wide on paper; a px stands off its ends
      const px = 25.4 / dpi;
      for (let x = left + px; x < right - px; x += (right - left - 2 * px) / 97) expect(isRed(x, level)).toBe(true);
      expect([isRed(left - 2 * px, level), isRed(right + 2 * px, level)]).toEqual([false, false]);
      expect([isRed(200, level - 1 - 2 * px), isRed(200, level + 1 + 2 * px)]).toEqual([false, false]);
    }
  });

  it('whose raster pictures can’t be read say where they are', async () => {
    const path = new PathBuilder().moveTo(0, 0).lineTo(1000, 0).lineTo(1000, 1000).lineTo(0, 1000).close();
    const place = { a: 1000, b: 0, c: 0, d: -1000, e: 0, f: 1000 };
    const bad = { place, clip: null, opacity: 1, href: () => 'data:image/png;base64,AAAA' };
    const drawing: ExportedDrawing = {
      name: '',
      unit: 'mm',
      layers: [],
      box: { minX: 0, minY: 0, maxX: 1, maxY: 1 },
      objects: () => [{ id: 0, layer: 0, path, text: null, line: null, fill: null, fillRule: 'nonzero', picture: bad }],
    };
    const sheet = sheetOfView(
      'Plan',
      { widthMm: 200, heightMm: 150 },
      { x: 500, y: 500, bearingRad: 0, denominator: 20 },
    );
    const pictures = await loadPictures([bad.href()]);
    const { width, bands } = sheetRows(printedSet([sheet], drawing), 0, 50.8, fonts, pictures);
    const pixels = Buffer.concat([...bands()]);
    const [x, y] = placementOf(sheet.frames[0]!, 'mm').toPaper(500, 500);
    expect(pixels[3 * (Math.round(y * 2) * width + Math.round(x * 2))]).toBe(0xe6);
  });
});

/** What TIFF 6.0 says of a file such as ours. */
function readTiff(bytes: Buffer): { width: number; dpi: number; pixels: Uint8Array }[] {
  const pages: { width: number; dpi: number; pixels: Uint8Array }[] = [];
  expect(bytes.subarray(0, 4)).toEqual(Buffer.from([0x49, 0x49, 42, 0]));
  for (let at = bytes.readUInt32LE(4); at !== 0;) {
    const fields = new Map<number, number[]>();
    const count = bytes.readUInt16LE(at);
    for (let k = 0; k < count; k++) {
      const entry = at + 2 + 12 * k;
      const [tag, type, length] = [
        bytes.readUInt16LE(entry),
        bytes.readUInt16LE(entry + 2),
        bytes.readUInt32LE(entry + 4),
      ];
      const size = type === 3 ? 2 : type === 4 ? 4 : 8;
      const place = size * length > 4 ? bytes.readUInt32LE(entry + 8) : entry + 8;
      const one = (i: number): number =>
        size === 2
          ? bytes.readUInt16LE(place + 2 * i)
          : size === 4
            ? bytes.readUInt32LE(place + 4 * i)
            : bytes.readUInt32LE(place + 8 * i) / bytes.readUInt32LE(place + 8 * i + 4);
      fields.set(
        tag,
        Array.from({ length }, (_, i) => one(i)),
      );
    }
    const [width] = fields.get(256)!;
    const offsets = fields.get(273)!;
    const strips = fields.get(279)!.map((length, k) => {
      const rows = Uint8Array.from(inflateSync(bytes.subarray(offsets[k], offsets[k]! + length)));
      for (let i = 0; i < rows.length; i++) if (i % (3 * width!) >= 3) rows[i] = rows[i]! + rows[i - 3]!;
      return rows;
    });
    pages.push({ width: width!, dpi: fields.get(282)![0]!, pixels: Uint8Array.from(Buffer.concat(strips)) });
    at = bytes.readUInt32LE(at + 2 + 12 * count);
  }
  return pages;
}
