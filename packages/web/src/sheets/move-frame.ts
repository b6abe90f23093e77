import { guided, type GuideLines } from '@gull-pane/core/sheets/guides';
import type { PaperRect } from '@gull-pane/core/sheets/sheet';

/** What is dragged stands on a grid of so many millimetres, where no guide is near. */
export const GRID_MM = 5;
/** A frame is at least so wide and high, mm. */
export const LEAST_FRAME_MM = 20;

export type Corner = 'upper left' | 'upper right' | 'lower right' | 'lower left';

/** Guides that a rectangle may be drawn to, and from how far. */
export interface Guides {
  readonly lines: GuideLines;
  readonly reachMm: number;
}
export const noGuides: Guides = { lines: { x: [], y: [] }, reachMm: 0 };

/** A rectangle that was moved or sized, and the lines that it stands on. */
export interface Placed<Rect> {
  readonly rect: Rect;
  readonly onto: GuideLines;
}

const onGrid = (mm: number): number => Math.round(mm / GRID_MM) * GRID_MM;

/** Where one edge or several come to: on a line, or on the grid. */
function stand(startMm: number, offsets: readonly number[], lines: readonly number[], reachMm: number) {
  const { mm, line } = guided(startMm, offsets, lines, reachMm);
  return line === null ? { mm: onGrid(startMm), on: [] } : { mm, on: [line] };
}

/** A rectangle moved by a way; it stands on a guide or on the grid afterwards. */
export function movedFrame<Rect extends Pick<PaperRect, 'leftMm' | 'topMm'>>(
  rect: Rect,
  size: Pick<PaperRect, 'widthMm' | 'heightMm'>,
  [rightMm, downMm]: readonly [number, number],
  { lines, reachMm }: Guides,
): Placed<Rect> {
  const across = stand(rect.leftMm + rightMm, [0, size.widthMm / 2, size.widthMm], lines.x, reachMm);
  const down = stand(rect.topMm + downMm, [0, size.heightMm / 2, size.heightMm], lines.y, reachMm);
  return { rect: { ...rect, leftMm: across.mm, topMm: down.mm }, onto: { x: across.on, y: down.on } };
}

/** A frame one of whose corners is moved by a way; that corner stands on a guide or on the grid afterwards. */
export function sizedFrame<Rect extends PaperRect>(
  rect: Rect,
  corner: Corner,
  [rightMm, downMm]: readonly [number, number],
  { lines, reachMm }: Guides,
): Placed<Rect> {
  const [right, bottom] = [rect.leftMm + rect.widthMm, rect.topMm + rect.heightMm];
  const isLeft = corner.endsWith('left');
  const isUpper = corner.startsWith('upper');
  const across = stand((isLeft ? rect.leftMm : right) + rightMm, [0], lines.x, reachMm);
  const down = stand((isUpper ? rect.topMm : bottom) + downMm, [0], lines.y, reachMm);
  const leftMm = isLeft ? Math.min(across.mm, right - LEAST_FRAME_MM) : rect.leftMm;
  const topMm = isUpper ? Math.min(down.mm, bottom - LEAST_FRAME_MM) : rect.topMm;
  const widthMm = isLeft ? right - leftMm : Math.max(across.mm - leftMm, LEAST_FRAME_MM);
  const heightMm = isUpper ? bottom - topMm : Math.max(down.mm - topMm, LEAST_FRAME_MM);
  return { rect: { ...rect, leftMm, topMm, widthMm, heightMm }, onto: { x: across.on, y: down.on } };
}
