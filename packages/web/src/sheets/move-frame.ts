import type { PaperRect } from '@gull-pane/core/sheets/sheet';

/** Frames that are dragged stand on a grid of so many millimetres. */
export const GRID_MM = 5;
/** A frame is at least so wide and high, mm. */
export const LEAST_FRAME_MM = 20;

export type Corner = 'upper left' | 'upper right' | 'lower right' | 'lower left';

const onGrid = (mm: number): number => Math.round(mm / GRID_MM) * GRID_MM;

/** A frame moved by a way; it stands on the grid afterwards. */
export const movedFrame = <Frame extends PaperRect>(frame: Frame, rightMm: number, downMm: number): Frame => ({
  ...frame,
  leftMm: onGrid(frame.leftMm + rightMm),
  topMm: onGrid(frame.topMm + downMm),
});

/** A frame one of whose corners is moved by a way; that corner stands on the grid afterwards. */
export function sizedFrame<Frame extends PaperRect>(
  frame: Frame,
  corner: Corner,
  rightMm: number,
  downMm: number,
): Frame {
  const [right, bottom] = [frame.leftMm + frame.widthMm, frame.topMm + frame.heightMm];
  const isLeft = corner.endsWith('left');
  const isUpper = corner.startsWith('upper');
  const leftMm = isLeft ? Math.min(onGrid(frame.leftMm + rightMm), right - LEAST_FRAME_MM) : frame.leftMm;
  const topMm = isUpper ? Math.min(onGrid(frame.topMm + downMm), bottom - LEAST_FRAME_MM) : frame.topMm;
  const widthMm = isLeft ? right - leftMm : Math.max(onGrid(right + rightMm) - leftMm, LEAST_FRAME_MM);
  const heightMm = isUpper ? bottom - topMm : Math.max(onGrid(bottom + downMm) - topMm, LEAST_FRAME_MM);
  return { ...frame, leftMm, topMm, widthMm, heightMm };
}
