import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Mark } from '../marks/mark.ts';
import { blockParts, blockSize, type BlockContent } from './block-parts.ts';
import { coveringSheets } from './covering.ts';
import { guided, guideLinesOf } from './guides.ts';
import { legendRows } from './legend.ts';
import { paperChanges, paperUnseen } from './paper-changes.ts';
import { paperMarks } from './paper-marks.ts';
import { paperSize } from './paper.ts';
import { sheetParts } from './sheet-parts.ts';
import { sheetOfView, type Sheet } from './sheet.ts';
import type { SheetPart } from './sheet-part.ts';

const fields = { project: '', title: '', number: '', revision: '', author: '', date: '' };
const view = { x: 0, y: 0, bearingRad: 0, denominator: 100 };
const sheet = sheetOfView('Plan', paperSize('A3', false), view);
const contentOf = (sheets: readonly Sheet[], more: Partial<BlockContent> = {}): BlockContent => ({
  sheets,
  unit: 'mm',
  fields,
  legendOf: () => [],
  ...more,
});
const textsOf = (parts: readonly SheetPart[]): string[] =>
  parts.flatMap((part) => (part.kind === 'text' ? [part.text] : []));
const [frame] = sheet.frames;

describe('a legend', () => {
  const layers = [
    { name: 'Walls', colour: '#16324a' },
    { name: 'Pipes', colour: '#1f7a8c' },
  ];
  const hatch = { kind: 'hatch', layer: 'To do', colour: '#d9532c' } as Mark;

  it('has what any view of the sheet shows: layers, then hatches of marks, each once', () => {
    const views = [
      { hiddenLayers: ['Walls', 'Pipes'], hiddenMarkLayers: ['To do'] },
      { hiddenLayers: ['Walls'], hiddenMarkLayers: [] },
    ];
    expect(legendRows(views, [...layers, layers[1]!], [hatch, hatch])).toEqual([
      { name: 'Pipes', colour: '#1f7a8c', sample: 'line' },
      { name: 'To do', colour: '#d9532c', sample: 'hatch' },
    ]);
  });

  it('keeps to its size however many rows there are, and counts those that it leaves out', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 90 }), fc.string({ maxLength: 80 }), (count, name) => {
        const rows = Array.from({ length: count }, (_, k) => ({
          name: `${k} ${name}`,
          colour: '#16324a',
          sample: 'line' as const,
        }));
        const content = contentOf([sheet], { legendOf: () => rows });
        const size = blockSize('legend', content, 0);
        const parts = blockParts({ kind: 'legend', leftMm: 50, topMm: 20 }, content, 0);
        for (const part of parts)
          if (part.kind === 'line')
            for (const [x, y] of part.points) {
              expect(x).toBeLessThanOrEqual(50 + size.widthMm);
              expect(y).toBeLessThanOrEqual(20 + size.heightMm);
            }
        expect(textsOf(parts).includes(`and ${count - 29} more`)).toBe(count > 30);
      }),
    );
  });
});

describe('a key plan', () => {
  const sheets = coveringSheets(
    { box: { minX: 0, minY: 0, maxX: 60_000, maxY: 40_000 }, ...view, paper: paperSize('A3', false), overlapMm: 10 },
    'mm',
    (row, column) => `Part ${row}.${column}`,
  );

  it('shows all sheets as they lie, this one apart; the numbers of the others lead to them', () => {
    const parts = blockParts({ kind: 'key-plan', leftMm: 30, topMm: 20 }, contentOf(sheets), 1);
    expect(parts.filter((part) => part.kind === 'line' && part.isClosed)).toHaveLength(sheets.length + 1);
    const numbers = parts.flatMap((part) => (part.kind === 'text' && /^\d+$/.test(part.text) ? [part] : []));
    expect(numbers.map(({ leadsTo }) => leadsTo).sort()).toEqual([0, 2, 3, null].sort());
    // the second sheet lies right of the first
    const [first, second] = ['1', '2'].map((text) => numbers.find((part) => part.text === text)!);
    expect(second!.at[0]).toBeGreaterThan(first!.at[0]);
    expect(second!.at[1]).toBeCloseTo(first!.at[1], 6);
  });

  it('says so where there is no plan', () => {
    const solid = { z: 0, orientation: { x: 0, y: 0, z: 0, w: 1 } };
    const model = sheetOfView('Model', paperSize('A3', false), { ...view, solid });
    expect(textsOf(blockParts({ kind: 'key-plan', leftMm: 0, topMm: 0 }, contentOf([model]), 0))).toContain(
      'No plans in this set',
    );
  });
});

it('a table of revisions has a row for each, and grows with them', () => {
  const revisions = [
    { revision: 'A', date: '2026-11-01', what: 'First issue', author: 'ML' },
    { revision: 'B', date: '2026-12-01', what: 'Valves moved', author: 'JT' },
  ];
  const content = contentOf([sheet], { fields: { ...fields, revisions } });
  const texts = textsOf(blockParts({ kind: 'revisions', leftMm: 0, topMm: 0 }, content, 0));
  for (const { what, revision } of revisions) for (const text of [what, revision]) expect(texts).toContain(text);
  expect(blockSize('revisions', content, 0).heightMm).toBeGreaterThan(
    blockSize('revisions', contentOf([sheet]), 0).heightMm,
  );
});

it('a view has its caption and its scale in its corner, within its frame', () => {
  const titled = { ...sheet, frames: [{ ...frame!, title: 'Section A-A' }] };
  const all = { ...contentOf([titled]), fields };
  const texts = sheetParts(all, 0).flatMap((part) => (part.kind === 'text' ? [part] : []));
  const title = texts.find(({ text }) => text === 'Section A-A');
  expect(title!.at[0]).toBeGreaterThan(frame!.leftMm);
  expect(title!.at[1]).toBeLessThan(frame!.topMm + frame!.heightMm);
  expect(sheetParts({ ...contentOf([sheet]), fields }, 0).length).toBeLessThan(sheetParts(all, 0).length);
});

describe('marks on paper', () => {
  const base = {
    layer: 'Check',
    colour: '#d9532c',
    line: 'solid',
    widthMm: 0.5,
    text: '',
    x: { x: 1, y: 0, z: 0 },
    y: { x: 0, y: 1, z: 0 },
  };
  const line = {
    ...base,
    kind: 'line',
    points: [
      { x: 0, y: 0, z: 0 },
      { x: 5000, y: 0, z: 0 },
    ],
  } as unknown as Mark;

  it('have their widths in mm whatever the scale, on a layer of their own', () => {
    for (const denominator of [20, 1000]) {
      const [part] = paperMarks([line], { ...frame!, view: { ...view, denominator } }, 'mm');
      expect(part).toMatchObject({ layer: 'Marks: Check', kind: 'line', widthMm: 0.5, ink: { r: 217, g: 83, b: 44 } });
      const [[x0, y0], [x1]] = (part as SheetPart & { kind: 'line' }).points as [[number, number], [number, number]];
      expect(x1 - x0).toBeCloseTo(5000 / denominator, 9);
      expect(y0).toBeCloseTo(frame!.topMm + frame!.heightMm / 2, 9);
    }
  });

  it('of what lies behind the eye aren’t seen', () => {
    const south = { x: Math.SQRT1_2, y: 0, z: 0, w: Math.SQRT1_2 };
    const solid = { z: 0, orientation: south, eyeDistance: 1000 };
    const near = { ...frame!, view: { ...view, solid } };
    expect(paperMarks([line], near, 'mm')).toHaveLength(1);
    const behind = { ...line, points: line.points.map((point) => ({ ...point, y: -3000 })) };
    expect(paperMarks([behind], near, 'mm')).toHaveLength(0);
  });

  it('say what they say, line by line', () => {
    const note = { ...base, kind: 'note', text: 'Too low\nsee KS-101', points: line.points } as unknown as Mark;
    expect(textsOf(paperMarks([note], frame!, 'mm'))).toEqual(['Too low', 'see KS-101']);
  });
});

describe('on top of views', () => {
  it('changes stand as what was, dashed, and what is; those beside the frame are left out', () => {
    const change = { linesBefore: [[0, 0, 1000, 0]], linesAfter: [[0, 500, 1000, 500]] };
    const far = { linesBefore: [], linesAfter: [[1e6, 0, 1e6 + 100, 0]] };
    const parts = paperChanges([change, far], 2, frame!, 'mm') as (SheetPart & { kind: 'line' })[];
    expect(parts.map(({ dashesMm }) => dashesMm.length > 0)).toEqual([true, false]);
    expect(parts[1]!.points[0]![1]).toBeCloseTo(parts[0]!.points[0]![1] - 5, 9);
  });

  it('cells are darker, the more of what lies there hasn’t been seen', () => {
    const at = (x: number, isSeen: boolean) => [frame!.leftMm + x, frame!.topMm + 1, isSeen] as const;
    const parts = paperUnseen(
      [at(1, false), at(2, false), at(6, false), at(7, true), at(11, true), at(-9, false)],
      frame!,
    );
    expect(parts).toHaveLength(2);
    expect(parts[0]!.opacity).toBeGreaterThan(parts[1]!.opacity!);
  });
});

describe('guides', () => {
  it('draw the nearest of some places to a line, and nothing from farther away', () => {
    const lines = guideLinesOf([{ leftMm: 100, topMm: 50, widthMm: 80, heightMm: 40 }]);
    expect(lines).toEqual({ x: [100, 140, 180], y: [50, 70, 90] });
    // a stretch of 30 whose end lies next to 140
    expect(guided(109, [0, 15, 30], lines.x, 2)).toEqual({ mm: 110, line: 140 });
    expect(guided(105, [0, 15, 30], lines.x, 2)).toEqual({ mm: 105, line: null });
  });
});
