import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawingUnits, mmPerUnit } from '../drawing/units.ts';
import { coveringSheets, gridOf } from './covering.ts';
import { paperNameOf, paperNames, paperSize } from './paper.ts';
import { paperScaleBar } from './scale-bar.ts';
import { boxOfFrame, placementOf, scaleWithRoom, sheetOfView, stripOf, viewAreaOf } from './sheet.ts';

const [EAST, NORTH] = [412_600_000, 7_208_400_000];
const paper = fc
  .tuple(fc.constantFrom(...paperNames), fc.boolean())
  .map(([name, isUpright]) => paperSize(name, isUpright));
const bearingRad = fc.double({ min: -7, max: 7, noNaN: true });
const denominator = fc.constantFrom(0.02, 1, 20, 50, 100, 250, 1000, 10_000);
const unit = fc.constantFrom(...drawingUnits);

describe('paper', () => {
  it('of series A halves from size to size', () => {
    for (const [larger, smaller] of [
      ['A0', 'A1'],
      ['A1', 'A2'],
      ['A2', 'A3'],
      ['A3', 'A4'],
    ] as const) {
      expect(paperSize(smaller, true).heightMm).toBe(paperSize(larger, true).widthMm);
      expect(paperSize(smaller, true).widthMm).toBe(Math.floor(paperSize(larger, true).heightMm / 2));
    }
  });

  it('is known by its sides, whichever way it lies', () => {
    for (const name of paperNames)
      for (const isUpright of [true, false]) expect(paperNameOf(paperSize(name, isUpright))).toBe(name);
    expect(paperNameOf({ widthMm: 300, heightMm: 400 })).toBeNull();
  });
});

describe('a frame', () => {
  it('shows lengths at its scale and directions by its bearing, and takes places there and back', () => {
    fc.assert(
      fc.property(
        paper,
        bearingRad,
        denominator,
        unit,
        fc.double({ min: -1, max: 1, noNaN: true }),
        (size, bearing, scale, of, share) => {
          const view = { x: EAST, y: NORTH, bearingRad: bearing, denominator: scale };
          const [frame] = sheetOfView('one', size, view).frames;
          const { toPaper, toDrawing } = placementOf(frame!, of);
          const [midX, midY] = toPaper(EAST, NORTH);
          const reach = (share * 100 * scale) / mmPerUnit(of);
          // along the bearing lies up on the paper
          const [x, y] = toPaper(EAST + reach * Math.sin(bearing), NORTH + reach * Math.cos(bearing));
          // doubles of the national grid are 1e-6 apart
          const slackMm = (4e-6 * mmPerUnit(of)) / scale + 1e-9;
          expect(Math.abs(x - midX)).toBeLessThanOrEqual(slackMm);
          expect(Math.abs(midY - y - share * 100)).toBeLessThanOrEqual(slackMm);
          const [backX, backY] = toDrawing(x, y);
          expect(
            Math.hypot(backX - EAST - reach * Math.sin(bearing), backY - NORTH - reach * Math.cos(bearing)),
          ).toBeLessThanOrEqual(1e-5);
        },
      ),
    );
  });

  it('is boxed by its corners', () => {
    const size = paperSize('A3', false);
    const frame = { ...viewAreaOf(size), view: { x: 0, y: 0, bearingRad: Math.PI / 2, denominator: 100 } };
    const { minX, maxX, minY, maxY } = boxOfFrame(frame, 'mm');
    expect(maxX - minX).toBeCloseTo(100 * frame.heightMm, 6);
    expect(maxY - minY).toBeCloseTo(100 * frame.widthMm, 6);
  });

  it('has a standard scale at which something just has room', () => {
    const room = viewAreaOf(paperSize('A3', false));
    expect(scaleWithRoom(room.widthMm * 50, 10, room, 'mm')).toBe(50);
    expect(scaleWithRoom(room.widthMm * 50.1, 10, room, 'mm')).toBe(100);
    expect(scaleWithRoom(1, room.heightMm * 1.2, room, 'm')).toBe(2000);
    expect(scaleWithRoom(room.widthMm * 0.15, 0, room, 'mm')).toBeCloseTo(0.2, 12);
    expect(scaleWithRoom(0, 0, room, 'mm')).toBe(1);
  });
});

describe('sheets that cover a box', () => {
  it('show every place of it, neighbours overlap by what was asked for, and match lines name each other', () => {
    const side = fc.double({ min: 1, max: 3_000_000, noNaN: true });
    const overlapMm = fc.constantFrom(0, 5, 20);
    fc.assert(
      fc.property(
        side,
        side,
        bearingRad,
        paper,
        overlapMm,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (width, height, bearing, size, overlap, shareX, shareY) => {
          const box = { minX: EAST, minY: NORTH, maxX: EAST + width, maxY: NORTH + height };
          const covering = { box, bearingRad: bearing, denominator: 1000, paper: size, overlapMm: overlap };
          const [columns, rows] = gridOf(covering, 'mm');
          const sheets = coveringSheets(covering, 'mm', (row, column) => `${row}.${column}`);
          expect(sheets).toHaveLength(columns * rows);
          const place = [EAST + shareX * width, NORTH + shareY * height] as const;
          const isShown = sheets.some(({ frames: [frame] }) => {
            const [x, y] = placementOf(frame!, 'mm').toPaper(...place);
            const { leftMm, topMm, widthMm, heightMm } = frame!;
            return (
              x >= leftMm - 1e-6 && x <= leftMm + widthMm + 1e-6 && y >= topMm - 1e-6 && y <= topMm + heightMm + 1e-6
            );
          });
          expect(isShown).toBe(true);
          sheets.forEach(({ matchLines, frames: [frame] }, index) => {
            if (overlap === 0) expect(matchLines).toEqual([]);
            for (const { from, to, sheet } of matchLines) {
              const other = sheets[sheet]!;
              expect(other.matchLines.some((line) => line.sheet === index)).toBe(true);
              // the same line of the drawing on both
              const ends = [from, to].map((end) => placementOf(frame!, 'mm').toDrawing(...end));
              for (const end of ends) {
                const [x, y] = placementOf(other.frames[0]!, 'mm').toPaper(...end);
                const onIt = other.matchLines.some(
                  (line) =>
                    line.sheet === index && (Math.abs(x - line.from[0]) < 1e-3 || Math.abs(y - line.from[1]) < 1e-3),
                );
                expect(onIt).toBe(true);
              }
            }
          });
        },
      ),
      { numRuns: 60 },
    );
  });

  it('refuse an overlap that leaves nothing', () => {
    const covering = {
      box: { minX: 0, minY: 0, maxX: 1, maxY: 1 },
      bearingRad: 0,
      denominator: 1,
      paper: paperSize('A4', true),
      overlapMm: 200,
    };
    expect(() => coveringSheets(covering, 'mm', () => '')).toThrow(RangeError);
  });
});

describe('the bar on paper', () => {
  it('has four fields of a round length that are as long as its scale says', () => {
    const bar = paperScaleBar(50, 'mm', 60);
    expect(bar.fieldMm).toBe(10);
    expect(bar.labels).toEqual(['0', '500 mm', '1 m', '1.5 m', '2 m']);
    expect(paperScaleBar(1000, 'm', 60).labels.at(-1)).toBe('40 m');
    fc.assert(
      fc.property(denominator, unit, (scale, of) => {
        const { fieldMm, labels } = paperScaleBar(scale, of, 60);
        expect(4 * fieldMm).toBeLessThanOrEqual(60 * (1 + 1e-9));
        expect(4 * fieldMm).toBeGreaterThanOrEqual(60 / 2.5 - 1e-9);
        expect(labels).toHaveLength(5);
      }),
    );
  });

  it('lies in the strip, which lies below the views', () => {
    const size = paperSize('A4', true);
    const [area, strip] = [viewAreaOf(size), stripOf(size)];
    expect(area.topMm + area.heightMm).toBe(strip.topMm);
    expect(strip.topMm + strip.heightMm).toBe(size.heightMm - 10);
  });
});
