import { PathBuilder } from '@gull-pane/core/drawing/path';
import type { PaperRect } from '@gull-pane/core/sheets/sheet';
import { drawFrame } from './draw-frame.ts';
import { drawParts } from './draw-parts.ts';
import type { PaperSurface } from './paper-surface.ts';
import type { PrintedSet } from './printed-set.ts';

/** Hears how far the writing has come. */
export type OnSheetProgress = (sheet: number, objects: number) => void;
/** Progress is reported every so many objects. */
const OBJECTS_PER_REPORT = 20_000;

const WHITE = { r: 255, g: 255, b: 255, a: 255 } as const;
const onPaper = (x: number, y: number): readonly [number, number] => [x, y];

/**
 * Draws a sheet of a set.
 * @param within what is needed of it; all if absent
 */
export function drawSheet(
  surface: PaperSurface,
  set: PrintedSet,
  index: number,
  onProgress: OnSheetProgress = () => undefined,
  within?: PaperRect,
): void {
  const sheet = set.sheets[index]!;
  const wanted = within ?? { leftMm: 0, topMm: 0, ...sheet.paper };
  let objects = 0;
  const count = (): void => {
    if (++objects % OBJECTS_PER_REPORT === 0) onProgress(index, objects);
  };
  onProgress(index, 0);
  surface.beginSheet(sheet, index);
  for (const [frame, own] of sheet.frames.entries()) {
    if (!overlap(own, wanted)) continue;
    // what lies below a view doesn't show through it
    if (sheet.frames.slice(0, frame).some((before) => overlap(before, own))) coverWithPaper(surface, own);
    const content = set.contentIn(index, frame);
    if (!content) continue;
    drawFrame(surface, own, content, wanted, count);
    if (content.onTop.length === 0) continue;
    surface.cut(own);
    drawParts(surface, content.onTop);
    surface.uncut();
  }
  drawParts(surface, set.partsOf(index));
  surface.endSheet();
}

function coverWithPaper(surface: PaperSurface, { leftMm, topMm, widthMm, heightMm }: PaperRect): void {
  const [right, bottom] = [leftMm + widthMm, topMm + heightMm];
  const rect = new PathBuilder()
    .moveTo(leftMm, topMm)
    .lineTo(right, topMm)
    .lineTo(right, bottom)
    .lineTo(leftMm, bottom)
    .close();
  surface.beginLayer('Sheet');
  surface.path(rect, onPaper, null, WHITE, 'nonzero');
  surface.endLayer();
}

const overlap = (a: PaperRect, b: PaperRect): boolean =>
  a.leftMm < b.leftMm + b.widthMm &&
  b.leftMm < a.leftMm + a.widthMm &&
  a.topMm < b.topMm + b.heightMm &&
  b.topMm < a.topMm + a.heightMm;
