import type { DrawingUnit } from '../drawing/units.ts';
import type { PaperSize } from './paper.ts';
import { placementOf, unitsPerPaperMm, viewAreaOf, type MatchLine, type Sheet, type SheetFrame } from './sheet.ts';

/** How a drawing is spread over several sheets. */
export interface Covering {
  /** Around what is to be shown, drawing units. */
  readonly box: { readonly minX: number; readonly minY: number; readonly maxX: number; readonly maxY: number };
  /** What lies at the top of the sheets, clockwise from north. */
  readonly bearingRad: number;
  readonly denominator: number;
  readonly paper: PaperSize;
  /** What neighbours both show, mm on paper. */
  readonly overlapMm: number;
}

/** How many sheets lie side by side, and one below the other. */
export function gridOf(
  { box, bearingRad, denominator, paper, overlapMm }: Covering,
  unit: DrawingUnit,
): [number, number] {
  const units = unitsPerPaperMm(denominator, unit);
  const { widthMm, heightMm } = viewAreaOf(paper);
  const [wide, high] = [(box.maxX - box.minX) / units, (box.maxY - box.minY) / units];
  const [cos, sin] = [Math.abs(Math.cos(bearingRad)), Math.abs(Math.sin(bearingRad))];
  const count = (length: number, side: number): number =>
    Math.max(Math.ceil((length - overlapMm) / (side - overlapMm) - 1e-9), 1);
  return [count(wide * cos + high * sin, widthMm), count(wide * sin + high * cos, heightMm)];
}

/**
 * Sheets that show all of a box at a scale, row by row from the upper left, with match lines in the middle of what
 * neighbours both show.
 * @param nameOf what each is called, by its row and column from 1
 * @throws RangeError if the overlap leaves nothing
 */
export function coveringSheets(
  covering: Covering,
  unit: DrawingUnit,
  nameOf: (row: number, column: number) => string,
): Sheet[] {
  const { box, bearingRad, denominator, paper, overlapMm } = covering;
  const area = viewAreaOf(paper);
  if (!(overlapMm >= 0) || overlapMm >= Math.min(area.widthMm, area.heightMm) / 2)
    throw new RangeError(`coveringSheets: sheets can’t overlap by ${overlapMm} mm on this paper`);
  const [columns, rows] = gridOf(covering, unit);
  const middle: SheetFrame = {
    ...area,
    view: { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2, bearingRad, denominator },
  };
  const { toDrawing } = placementOf(middle, unit);
  const [stepX, stepY] = [area.widthMm - overlapMm, area.heightMm - overlapMm];
  const [middleX, middleY] = [area.leftMm + area.widthMm / 2, area.topMm + area.heightMm / 2];
  const sheets: Sheet[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [x, y] = toDrawing(
        middleX + (column - (columns - 1) / 2) * stepX,
        middleY + (row - (rows - 1) / 2) * stepY,
      );
      const frame = { ...area, view: { x, y, bearingRad, denominator } };
      const at = (r: number, c: number): number => r * columns + c;
      const matchLines = overlapMm === 0 ? [] : matchLinesOf(frame, overlapMm / 2, { row, column, rows, columns }, at);
      sheets.push({ name: nameOf(row + 1, column + 1), paper, frames: [frame], matchLines });
    }
  return sheets;
}

function matchLinesOf(
  { leftMm, topMm, widthMm, heightMm }: SheetFrame,
  inMm: number,
  place: { readonly row: number; readonly column: number; readonly rows: number; readonly columns: number },
  at: (row: number, column: number) => number,
): MatchLine[] {
  const { row, column, rows, columns } = place;
  const [right, bottom] = [leftMm + widthMm, topMm + heightMm];
  const lines: MatchLine[] = [];
  const upright = (x: number, sheet: number): number => lines.push({ from: [x, topMm], to: [x, bottom], sheet });
  const level = (y: number, sheet: number): number => lines.push({ from: [leftMm, y], to: [right, y], sheet });
  if (column > 0) upright(leftMm + inMm, at(row, column - 1));
  if (column < columns - 1) upright(right - inMm, at(row, column + 1));
  if (row > 0) level(topMm + inMm, at(row - 1, column));
  if (row < rows - 1) level(bottom - inMm, at(row + 1, column));
  return lines;
}
