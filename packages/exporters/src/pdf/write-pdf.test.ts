import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { DrawingSink, PathElement, Style, TextElement } from '@gull-pane/core/drawing/model';
import { PathBuilder, type Path } from '@gull-pane/core/drawing/path';
import { flattenPath, within } from '@gull-pane/core/drawing/flatten';
import { coveringSheets } from '@gull-pane/core/sheets/covering';
import { paperSize } from '@gull-pane/core/sheets/paper';
import { placementOf, sheetOfView, type Sheet } from '@gull-pane/core/sheets/sheet';
import { readPdf } from '@gull-pane/importers/pdf/read-pdf';
import type { ExportedDrawing, ExportedObject } from '../exported.ts';
import type { PdfFonts } from './fonts.ts';
import { tracePath } from '../sheets/trace-path.ts';
import { printedSet } from '../testing/printed-set.ts';
import { pdfNumber } from './pdf-number.ts';
import { writePdf } from './write-pdf.ts';

const require = createRequire(import.meta.url);
const font = (name: string): Uint8Array =>
  readFileSync(require.resolve(`@fontsource/source-sans-3/files/source-sans-3-${name}-normal.woff`));
const fonts: PdfFonts = {
  normal: ['latin-400', 'cyrillic-400'].map(font),
  bold: ['latin-700'].map(font),
};
const [EAST, NORTH] = [412_600_000, 7_208_400_000];
const black = { r: 0, g: 0, b: 0, a: 255 };
const pen = (more: Partial<Style> = {}): Style => ({
  kind: 'line',
  layer: 0,
  colour: black,
  width: 25,
  dashes: [],
  ...more,
});

const objectOf = (id: number, path: Path | null, more: Partial<ExportedObject> = {}): ExportedObject => ({
  id,
  layer: 0,
  path,
  text: null,
  line: pen(),
  fill: null,
  fillRule: 'nonzero',
  ...more,
});
const drawingOf = (objects: readonly ExportedObject[], layers = ['Walls', 'Pipes']): ExportedDrawing => ({
  name: 'Pump hall',
  unit: 'mm',
  layers: layers.map((name) => ({ name, colour: '#16324A' })),
  box: { minX: 0, minY: 0, maxX: 1, maxY: 1 },
  objects: () => objects,
});

const printed = (sheets: readonly Sheet[], drawing: ExportedDrawing): Uint8Array =>
  Buffer.concat([...writePdf(printedSet(sheets, drawing), fonts)]);

/** What comes in again but for the sheet's own lines and texts. */
async function readBack(bytes: Uint8Array) {
  const paths: PathElement[] = [];
  const texts: TextElement[] = [];
  const sink: DrawingSink = {
    path: (element) => paths.push(element),
    text: (element) => texts.push(element),
    picture: () => 0,
  };
  const result = await readPdf(Uint8Array.from(bytes), sink);
  const own = new Set(['Sheet', 'Sheet edges', 'Match lines']);
  const layerOf = (style: number): string => result.layers[result.styles[style]!.layer]!.name;
  const styleOf = ({ lineStyle, fillStyle }: PathElement): number => Math.max(lineStyle, fillStyle);
  return {
    ...result,
    layerOf,
    styleOf,
    paths: paths.filter((path) => !own.has(layerOf(styleOf(path)))),
    texts: texts.filter(({ style }) => !own.has(layerOf(style))),
    all: texts,
    covers: paths.filter((path) => layerOf(styleOf(path)) === 'Sheet'),
  };
}

function pointsOf(path: Path, chordError: number): [number, number][] {
  const points: [number, number][] = [];
  const add = (x: number, y: number): number => points.push([x, y]);
  flattenPath(path, { move: add, line: add, close: () => undefined }, within(chordError));
  return points;
}

describe('sheets as PDF', () => {
  it('come in again with their geometry within a hundredth of a millimetre on paper, whatever the scale and the twist', async () => {
    const share = fc.double({ min: -0.9, max: 0.9, noNaN: true });
    const place = fc.tuple(share, share);
    const step = fc.oneof(
      fc.record({ kind: fc.constant('line' as const), to: place }),
      fc.record({ kind: fc.constant('cubic' as const), to: place, a: place, b: place }),
      fc.record({ kind: fc.constant('quadratic' as const), to: place, a: place }),
    );
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(place, fc.array(step, { minLength: 1, maxLength: 5 })), { minLength: 1, maxLength: 6 }),
        fc.constantFrom(1, 5, 50, 200, 2500),
        fc.double({ min: -4, max: 4, noNaN: true }),
        async (runs, denominator, bearingRad) => {
          const sheet = sheetOfView('Plan', paperSize('A3', false), { x: EAST, y: NORTH, bearingRad, denominator });
          const [frame] = sheet.frames;
          const { toDrawing, toPaper } = placementOf(frame!, 'mm');
          const at = ([x, y]: readonly [number, number]): [number, number] => {
            const [dx, dy] = toDrawing(
              frame!.leftMm + (frame!.widthMm * (1 + x)) / 2,
              frame!.topMm + (frame!.heightMm * (1 + y)) / 2,
            );
            return [dx, dy];
          };
          const objects = runs.map(([start, steps], id) => {
            const path = new PathBuilder().moveTo(...at(start));
            for (const one of steps) {
              if (one.kind === 'line') path.lineTo(...at(one.to));
              else if (one.kind === 'cubic') path.cubicTo(...at(one.a), ...at(one.b), ...at(one.to));
              else path.quadraticTo(...at(one.a), ...at(one.to));
            }
            return objectOf(id, path);
          });
          const { paths } = await readBack(printed([sheet], drawingOf(objects)));
          expect(paths).toHaveLength(objects.length);
          paths.forEach(({ path }, index) => {
            const source = objects[index]!.path!;
            // every step ends where it did; quadratics come as cubics
            const [ours, theirs] = [endsOf(source), endsOf(path)];
            expect(theirs).toHaveLength(ours.length);
            theirs.forEach(([x, y], i) => {
              const [px, py] = toPaper(...ours[i]!);
              // pages come in with y up
              expect(Math.hypot(px - x, sheet.paper.heightMm - py - y)).toBeLessThanOrEqual(0.01);
            });
          });
        },
      ),
      { numRuns: 40 },
    );
  });

  it('keep layers, colours, widths in mm on paper, dashes and fills', async () => {
    const ring = new PathBuilder()
      .moveTo(EAST, NORTH)
      .lineTo(EAST + 2000, NORTH)
      .lineTo(EAST, NORTH + 1500)
      .close();
    const run = new PathBuilder().moveTo(EAST - 3000, NORTH).lineTo(EAST + 3000, NORTH + 10);
    const area: Style = { kind: 'fill', layer: 1, colour: { r: 31, g: 122, b: 140, a: 128 }, width: 0, dashes: [] };
    const objects = [
      objectOf(0, ring, { line: null, fill: area, layer: 1 }),
      objectOf(1, run, { line: pen({ colour: { r: 217, g: 83, b: 44, a: 255 }, width: 35, dashes: [100, 50] }) }),
      objectOf(2, run, { line: pen({ width: 0 }) }),
    ];
    const sheet = sheetOfView('Plan', paperSize('A3', false), { x: EAST, y: NORTH, bearingRad: 0, denominator: 50 });
    const { paths, styles, styleOf, layerOf } = await readBack(printed([sheet], drawingOf(objects)));
    expect(paths.map((path) => layerOf(styleOf(path)))).toEqual(['Pipes', 'Walls', 'Walls']);
    const [fill, dashed, hair] = paths.map((path) => styles[styleOf(path)]!);
    expect(fill!.colour).toEqual({ r: 31, g: 122, b: 140, a: 128 });
    expect(dashed!.colour).toEqual({ r: 217, g: 83, b: 44, a: 255 });
    expect(dashed!.width).toBeCloseTo(0.7, 3);
    dashed!.dashes.forEach((length, i) => expect(length).toBeCloseTo([2, 1][i]!, 3));
    expect(hair!.width).toBeCloseTo(0.13, 3);
    expect(hair!.dashes).toEqual([]);
  });

  it('keep texts as texts, turned with the view, in letters of several fonts', async () => {
    const text = {
      text: 'KS-101 Насос',
      x: EAST,
      y: NORTH,
      size: 125,
      angleRad: 0.3,
      anchor: 'start',
      weight: 'normal',
    } as const;
    const middle = { ...text, text: 'Pump hall', y: NORTH + 2000, anchor: 'middle', weight: 'bold' } as const;
    const ink = pen({ kind: 'text', width: 0 });
    const objects = [text, middle].map((mark, id) => objectOf(id, null, { text: mark, line: ink }));
    const view = { x: EAST, y: NORTH, bearingRad: Math.PI / 6, denominator: 50 };
    const sheet = sheetOfView('Plan', paperSize('A4', true), view);
    const { texts, all } = await readBack(printed([sheet], drawingOf(objects)));
    expect(
      texts
        .map(({ mark }) => mark.text)
        .join('|')
        .replaceAll(/[ |]/g, ''),
    ).toBe('KS-101НасосPumphall');
    const tag = texts[0]?.mark;
    const [x, y] = placementOf(sheet.frames[0]!, 'mm').toPaper(EAST, NORTH);
    expect(tag!.x).toBeCloseTo(x, 2);
    expect(tag!.y).toBeCloseTo(297 - y, 2);
    expect(tag!.size).toBeCloseTo(2.5, 2);
    expect(tag!.angleRad).toBeCloseTo(0.3 + Math.PI / 6, 4);
    // and the strip says what the sheet is
    const words = all.map(({ mark }) => mark.text).join('|');
    for (const word of ['Kelpie', 'KS-101', '1:50', '1 of 1', 'Plan']) expect(words).toContain(word);
  });

  it('of a set have a page each, with match lines that lead to the others and an outline', async () => {
    const covering = {
      box: { minX: EAST, minY: NORTH, maxX: EAST + 60_000, maxY: NORTH + 20_000 },
      bearingRad: 0,
      denominator: 100,
      paper: paperSize('A3', false),
      overlapMm: 10,
    };
    const sheets = coveringSheets(covering, 'mm', (row, column) => `Plan ${row}.${column}`);
    expect(sheets.length).toBeGreaterThan(1);
    const bytes = printed(
      sheets,
      drawingOf([objectOf(0, new PathBuilder().moveTo(EAST, NORTH).lineTo(EAST + 60_000, NORTH))]),
    );
    const { sheets: pages, all } = await readBack(bytes);
    expect(pages).toHaveLength(sheets.length);
    expect(all.map(({ mark }) => mark.text).join('|')).toContain('see Plan 1.2');
    const file = Buffer.from(bytes).toString('latin1');
    expect(file).toContain('/Outlines');
    expect(file.match(/\/S \/GoTo/g) ?? []).toHaveLength(
      sheets.reduce((sum, { matchLines }) => sum + matchLines.length, 0),
    );
  });

  it('cover what lies below a view that lies over another', async () => {
    const sheet = sheetOfView('Plan', paperSize('A3', false), { x: EAST, y: NORTH, bearingRad: 0, denominator: 50 });
    const over = { ...sheet.frames[0]!, leftMm: 200, topMm: 50, widthMm: 100, heightMm: 80 };
    const line = objectOf(0, new PathBuilder().moveTo(EAST, NORTH).lineTo(EAST + 1000, NORTH));
    const whitesOf = async (frames: Sheet['frames']): Promise<number> => {
      const { styles, covers } = await readBack(printed([{ ...sheet, frames }], drawingOf([line])));
      const isWhite = ({ r, g, b }: Style['colour']): boolean => r === 255 && g === 255 && b === 255;
      return covers.filter(({ fillStyle }) => fillStyle >= 0 && isWhite(styles[fillStyle]!.colour)).length;
    };
    expect(await whitesOf(sheet.frames)).toBe(0);
    expect(await whitesOf([...sheet.frames, over])).toBe(1);
    expect(await whitesOf([over, { ...over, leftMm: 300 }])).toBe(0);
  });

  it('refuse a set without sheets', () => {
    expect(() => printed([], drawingOf([]))).toThrow(RangeError);
  });
});

/** Ends of steps. */
function endsOf({ ops, coords }: Path): [number, number][] {
  const ends: [number, number][] = [];
  let k = 0;
  for (let i = 0; i < ops.length; i++) {
    const length = [2, 2, 4, 6, 10, 0][ops[i]!]!;
    k += length;
    if (length > 0) ends.push([coords[k - 2]!, coords[k - 1]!]);
  }
  return ends;
}

describe('paths in a page', () => {
  it('keep to arcs within 5e-6 of their radius', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -7, max: 7, noNaN: true }),
        fc.double({ min: 0.01, max: 2 * Math.PI, noNaN: true }),
        (startRad, sweepRad) => {
          const end = startRad + sweepRad;
          const path = new PathBuilder()
            .moveTo(1000 * Math.cos(startRad), 1000 * Math.sin(startRad))
            .arcTo(
              { cx: 0, cy: 0, ux: 1000, uy: 0, vx: 0, vy: 1000, startRad, sweepRad },
              1000 * Math.cos(end),
              1000 * Math.sin(end),
            );
          const curve = new PathBuilder();
          tracePath(path, (x, y) => [x, y], {
            move: (x, y) => curve.moveTo(x, y),
            line: (x, y) => curve.lineTo(x, y),
            cubic: (...step) => curve.cubicTo(...step),
            close: () => curve.close(),
          });
          for (const [x, y] of pointsOf(curve, 0.001))
            expect(Math.abs(Math.hypot(x, y) - 1000)).toBeLessThan(0.005 + 0.002);
        },
      ),
    );
  });

  it('are numbers without exponents', () => {
    for (const value of [1e-7, -1e-7, 0, 1e21, -1e300, 123.45678, 1e9 + 0.5])
      expect(pdfNumber(value)).toMatch(/^-?\d+(\.\d+)?$/);
    expect(pdfNumber(-0)).toBe('0');
  });
});
