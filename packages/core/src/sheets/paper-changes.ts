import type { DrawingUnit } from '../drawing/units.ts';
import { projectionOf } from './frame-camera.ts';
import type { SheetFrame } from './sheet.ts';
import type { PaperInk, PaperPoint, SheetPart } from './sheet-part.ts';

/** What was and what is of something that has changed: runs of coordinates, drawing units. */
export interface ChangedLines {
  readonly linesBefore: readonly (readonly number[])[];
  readonly linesAfter: readonly (readonly number[])[];
}

/** What was, dashed, and what is; as on the screen. */
const WAS = { ink: { r: 0xb3, g: 0x54, b: 0x1e }, widthMm: 0.35, dashesMm: [1.6, 1] } as const;
const IS = { ink: { r: 0x1f, g: 0x5f, b: 0xbf }, widthMm: 0.5, dashesMm: [] } as const;
const UNSEEN_MM = 5;

/** Changes between two revisions as they lie on a view. @param axes coordinates of a point */
export function paperChanges(
  changes: readonly ChangedLines[],
  axes: 2 | 3,
  frame: SheetFrame,
  unit: DrawingUnit,
): readonly SheetPart[] {
  const { toPaper, eyeDistance } = projectionOf(frame, unit);
  const parts: SheetPart[] = [];
  const { leftMm, topMm, widthMm, heightMm } = frame;
  const isInFrame = (points: readonly PaperPoint[]): boolean =>
    points.some(([x]) => x >= leftMm) &&
    points.some(([x]) => x <= leftMm + widthMm) &&
    points.some(([, y]) => y >= topMm) &&
    points.some(([, y]) => y <= topMm + heightMm);
  const add = (runs: ChangedLines['linesAfter'], pen: typeof WAS | typeof IS): void => {
    for (const run of runs) {
      const points: PaperPoint[] = [];
      let isSeen = true;
      for (let i = 0; i + axes <= run.length; i += axes) {
        const [x, y, nearness] = toPaper({ x: run[i]!, y: run[i + 1]!, z: axes === 3 ? run[i + 2]! : 0 });
        isSeen &&= eyeDistance === Infinity || nearness > 0;
        points.push([x, y]);
      }
      if (isSeen && points.length > 1 && isInFrame(points))
        parts.push({ layer: 'Changes', kind: 'line', points, isClosed: false, ...pen });
    }
  };
  for (const { linesBefore } of changes) add(linesBefore, WAS);
  for (const { linesAfter } of changes) add(linesAfter, IS);
  return parts;
}

/**
 * What hasn't been seen yet, shaded by cells: the darker, the more of what lies there.
 * @param places middles of objects in the frame, mm on the sheet, and whether each has been seen
 */
export function paperUnseen(
  places: Iterable<readonly [xMm: number, yMm: number, isSeen: boolean]>,
  { leftMm, topMm, widthMm, heightMm }: SheetFrame,
): readonly SheetPart[] {
  const columns = Math.max(Math.ceil(widthMm / UNSEEN_MM), 1);
  const rows = Math.max(Math.ceil(heightMm / UNSEEN_MM), 1);
  const all = new Uint32Array(columns * rows);
  const unseen = new Uint32Array(columns * rows);
  for (const [x, y, isSeen] of places) {
    const [column, row] = [Math.floor((x - leftMm) / UNSEEN_MM), Math.floor((y - topMm) / UNSEEN_MM)];
    if (column < 0 || row < 0 || column >= columns || row >= rows) continue;
    all[row * columns + column]!++;
    if (!isSeen) unseen[row * columns + column]!++;
  }
  const parts: SheetPart[] = [];
  const ink: PaperInk = 'accent';
  for (let cell = 0; cell < all.length; cell++) {
    if (unseen[cell] === 0) continue;
    const [left, top] = [leftMm + (cell % columns) * UNSEEN_MM, topMm + Math.floor(cell / columns) * UNSEEN_MM];
    const [right, bottom] = [Math.min(left + UNSEEN_MM, leftMm + widthMm), Math.min(top + UNSEEN_MM, topMm + heightMm)];
    const ring: PaperPoint[] = [
      [left, top],
      [right, top],
      [right, bottom],
      [left, bottom],
    ];
    const opacity = 0.08 + 0.22 * (unseen[cell]! / all[cell]!);
    parts.push({ layer: 'Not seen yet', ink, opacity, kind: 'area', rings: [ring] });
  }
  return parts;
}
