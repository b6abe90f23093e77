import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { coveringSheets } from './covering.ts';
import { paperNames, paperSize } from './paper.ts';
import { widthOf, type SheetPart } from './sheet-part.ts';
import { sheetParts } from './sheet-parts.ts';
import { sheetOfView, type Sheet } from './sheet.ts';

const fields = { project: 'Kelpie Sound', title: 'Pump hall', number: 'KS-101', revision: 'B', author: '', date: '' };
const view = { x: 0, y: 0, bearingRad: 0, denominator: 50 };
type Text = SheetPart & { readonly kind: 'text' };
const setOf = (sheets: readonly Sheet[], own = fields) =>
  ({ sheets, fields: own, unit: 'mm', legendOf: () => [] }) as const;
const textsOf = (parts: readonly SheetPart[]): Text[] => parts.filter((part): part is Text => part.kind === 'text');

describe('what a sheet draws itself', () => {
  it('says what it is: names, scale, paper, number in the set; nothing of empty fields', () => {
    const sheets = ['Plan', 'Section'].map((name) => sheetOfView(name, paperSize('A3', false), view));
    const told = textsOf(sheetParts(setOf(sheets), 1)).map(({ text }) => text);
    for (const text of ['Kelpie Sound', 'Pump hall', 'Section', '1:50, A3', 'KS-101', 'B', '2 of 2', '1:50', 'N'])
      expect(told).toContain(text);
    expect(told).not.toContain('By, on');
  });

  it('lies on the paper, and its texts keep to their room, whatever they say', () => {
    const text = fc.string({ maxLength: 120 });
    fc.assert(
      fc.property(
        fc.constantFrom(...paperNames),
        fc.boolean(),
        fc.record({ project: text, title: text, number: text, revision: text, author: text, date: text }),
        fc.constantFrom(0.5, 1, 75, 500, 20_000),
        (name, isUpright, own, denominator) => {
          const paper = paperSize(name, isUpright);
          const parts = sheetParts(setOf([sheetOfView('Plan', paper, { ...view, denominator })], own), 0);
          const isOn = ([x, y]: readonly [number, number]): boolean =>
            x >= 0 && x <= paper.widthMm && y >= 0 && y <= paper.heightMm;
          for (const part of parts) {
            if (part.kind === 'area') for (const point of part.rings.flat()) expect(isOn(point)).toBe(true);
            else if (part.kind === 'line') for (const point of part.points) expect(isOn(point)).toBe(true);
            else if (part.kind === 'text') {
              expect(isOn(part.at)).toBe(true);
              const end = part.at[0] + widthOf(part.text, part.sizeMm, part.weight);
              expect(end).toBeLessThanOrEqual(paper.widthMm - 10 + 1e-6);
            }
          }
        },
      ),
    );
  });

  it('has a needle that points north', () => {
    const needleAt = (bearingRad: number): [number, number] => {
      const parts = sheetParts(setOf([sheetOfView('Plan', paperSize('A3', false), { ...view, bearingRad })]), 0);
      const [area] = parts.flatMap((part) => (part.kind === 'area' ? part.rings : []));
      const [tip, , tail] = area as unknown as [[number, number], unknown, [number, number]];
      const length = Math.hypot(tip[0] - tail[0], tip[1] - tail[1]);
      return [(tip[0] - tail[0]) / length, (tail[1] - tip[1]) / length];
    };
    const close = ([x, y]: [number, number], right: number, up: number): void => {
      expect(x).toBeCloseTo(right, 9);
      expect(y).toBeCloseTo(up, 9);
    };
    close(needleAt(0), 0, 1);
    // with east at the top north lies at the left
    close(needleAt(Math.PI / 2), -1, 0);
    close(needleAt(Math.PI), 0, -1);
  });

  it('names at match lines the sheets that they lead to', () => {
    const covering = {
      box: { minX: 0, minY: 0, maxX: 60_000, maxY: 5000 },
      bearingRad: 0,
      denominator: 100,
      paper: paperSize('A3', false),
      overlapMm: 10,
    };
    const sheets = coveringSheets(covering, 'mm', (row, column) => `Part ${row}.${column}`);
    const links = textsOf(sheetParts(setOf(sheets), 0)).filter(({ leadsTo }) => leadsTo !== null);
    expect(links.map(({ text, leadsTo, isUpright }) => [text, leadsTo, isUpright])).toEqual([
      ['Match line: see Part 1.2', 1, true],
    ]);
  });
});
