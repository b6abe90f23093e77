/** Turns a browser's wheel numbers into notches, so that every device is felt alike. */

/** Px that one notch of a common wheel reports in pixel mode. */
const PX_PER_NOTCH = 100;
/** Lines that one notch reports in line mode. */
const LINES_PER_NOTCH = 3;

/**
 * @param delta the wheel event's vertical delta, positive towards the hand
 * @param deltaMode 0 pixels, 1 lines, 2 pages (UI Events, WheelEvent)
 * @returns notches, positive towards the hand; at most 5 at once, so that a fling cannot throw the view away
 */
export function notchesOf(delta: number, deltaMode: number): number {
  const notches = deltaMode === 1 ? delta / LINES_PER_NOTCH : deltaMode === 2 ? delta : delta / PX_PER_NOTCH;
  return Math.min(Math.max(notches, -5), 5);
}
