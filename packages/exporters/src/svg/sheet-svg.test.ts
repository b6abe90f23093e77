import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import type { Style } from '@gull-pane/core/drawing/model';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import { coveringSheets } from '@gull-pane/core/sheets/covering';
import { paperSize } from '@gull-pane/core/sheets/paper';
import { placementOf, sheetOfView } from '@gull-pane/core/sheets/sheet';
import { readWhole } from '@gull-pane/importers/svg/read-whole';
import type { ExportedDrawing, ExportedObject } from '../exported.ts';
import { printedSet } from '../testing/printed-set.ts';
import { sheetSvg, type FacePart } from './sheet-svg.ts';

const require = createRequire(import.meta.url);
const faceOf = (name: string, range: string, has: FacePart['has']): FacePart => ({
  weight: 400,
  range,
  has,
  bytes: () => readFileSync(require.resolve(`@fontsource/source-sans-3/files/source-sans-3-${name}-400-normal.woff`)),
});
const faces = [
  faceOf('latin', 'U+0000-00FF', (code) => code < 256),
  faceOf('greek', 'U+0370-03FF', (code) => code >= 0x370 && code < 0x400),
];
const [EAST, NORTH] = [412_600_000, 7_208_400_000];
const style: Style = {
  kind: 'line',
  layer: 0,
  colour: { r: 31, g: 122, b: 140, a: 255 },
  width: 25,
  dashes: [100, 50],
};
const own: Pick<ExportedObject, 'id' | 'text' | 'line' | 'fill' | 'fillRule'> = {
  id: 0,
  text: null,
  line: style,
  fill: null,
  fillRule: 'nonzero',
};
const pipe = new PathBuilder()
  .moveTo(EAST - 2000, NORTH)
  .lineTo(EAST, NORTH)
  .quadraticTo(EAST + 500, NORTH, EAST + 900, NORTH + 700);
const tag = {
  text: 'KS-101 & more',
  x: EAST,
  y: NORTH,
  size: 125,
  angleRad: 0.3,
  anchor: 'start',
  weight: 'normal',
} as const;
const objects: readonly ExportedObject[] = [
  { ...own, layer: 0, path: pipe },
  { ...own, layer: 1, path: null, text: tag },
];
const drawing: ExportedDrawing = {
  name: 'Pump hall',
  unit: 'mm',
  layers: [
    { name: 'Pipes', colour: '#1f7a8c' },
    { name: 'Tags', colour: '#16324a' },
  ],
  box: { minX: 0, minY: 0, maxX: 1, maxY: 1 },
  objects: () => objects,
};
const sheet = sheetOfView('Plan', paperSize('A3', false), { x: EAST, y: NORTH, bearingRad: 0.5, denominator: 50 });

function readBack(svg: string) {
  const result = readWhole(svg);
  const layerOf = (style: number): string => result.layers[result.layerOfNode[result.styles[style]!.layer]!]!.name;
  return { ...result, layerOf };
}

describe('a sheet as SVG', () => {
  it('comes in again: places within a hundredth of a millimetre, layers, widths and texts the same', () => {
    const svg = sheetSvg(printedSet([sheet], drawing), 0, faces, () => '').join('');
    const { paths, texts, styles, layerOf } = readBack(svg);
    const back = paths.filter(({ lineStyle }) => lineStyle >= 0 && layerOf(lineStyle) === 'Pipes');
    expect(back).toHaveLength(1);
    const { path, lineStyle } = back[0]!;
    const { toPaper } = placementOf(sheet.frames[0]!, 'mm');
    const ends = [0, 2, path.coords.length - 2].map((at) => [path.coords[at]!, path.coords[at + 1]!] as const);
    [
      [EAST - 2000, NORTH],
      [EAST, NORTH],
      [EAST + 900, NORTH + 700],
    ].forEach(([x, y], k) => {
      const [px, py] = toPaper(x!, y!);
      expect(Math.hypot(px - ends[k]![0], -py - ends[k]![1])).toBeLessThanOrEqual(0.01);
    });
    expect(styles[lineStyle]!.width).toBeCloseTo(0.5, 4);
    expect(styles[lineStyle]!.colour).toEqual(style.colour);
    expect(styles[lineStyle]!.dashes[0]).toBeCloseTo(2, 4);
    const text = texts.find(({ mark }) => mark.text === tag.text);
    expect(text && layerOf(text.style)).toBe('Tags');
    expect(text!.mark.size).toBeCloseTo(2.5, 4);
    expect(text!.mark.angleRad).toBeCloseTo(0.8, 4);
  });

  it('holds the letters that it needs, and no others', () => {
    const svg = sheetSvg(printedSet([sheet], drawing), 0, faces, () => '').join('');
    expect(svg).toContain('unicode-range:U+0000-00FF');
    expect(svg).not.toContain('unicode-range:U+0370-03FF');
    const greek = { ...drawing, objects: () => [{ ...objects[1]!, text: { ...tag, text: 'Ω' } }] };
    expect(sheetSvg(printedSet([sheet], greek), 0, faces, () => '').join('')).toContain('unicode-range:U+0370-03FF');
  });

  it('leads to the files of the sheets beside it', () => {
    const box = { minX: EAST, minY: NORTH, maxX: EAST + 40_000, maxY: NORTH + 9000 };
    const covering = { box, bearingRad: 0, denominator: 100, paper: paperSize('A3', false), overlapMm: 10 };
    const sheets = coveringSheets(covering, 'mm', (row, column) => `Part ${row}.${column}`);
    const svg = sheetSvg(printedSet(sheets, drawing), 0, faces, (index) => `${index + 1} Part.svg`).join('');
    expect(svg).toContain('xlink:href="2%20Part.svg"');
  });
});
