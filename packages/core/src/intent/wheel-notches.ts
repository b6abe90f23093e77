/** Turns a browser's wheel numbers into notches, so that every device is felt alike. */

/** Px that one notch of a common wheel reports in pixel mode. */
const PX_PER_NOTCH = 100;
/** Lines that one notch reports in line mode. */
const LINES_PER_NOTCH = 3;
/** A browser tells a pinch by a wheel's px: so many a factor of e. */
const PX_PER_PINCH = 100;
/** A page, where a device counts in pages, px. */
const PX_PER_PAGE = 600;

/**
 * @param delta the wheel event's vertical delta, positive towards the hand
 * @param deltaMode 0 pixels, 1 lines, 2 pages (UI Events, WheelEvent)
 * @returns notches, positive towards the hand; at most 5 at once, so that a fling cannot throw the view away
 */
export function notchesOf(delta: number, deltaMode: number): number {
  const notches = deltaMode === 1 ? delta / LINES_PER_NOTCH : deltaMode === 2 ? delta : delta / PX_PER_NOTCH;
  return Math.min(Math.max(notches, -5), 5);
}

/** How far a wheel that moves the view moves it, px. */
export function wheelPx(delta: number, deltaMode: number): number {
  if (deltaMode === 0) return delta;
  return deltaMode === 1 ? (delta / LINES_PER_NOTCH) * PX_PER_NOTCH : delta * PX_PER_PAGE;
}

/** The factor by which two fingers on a trackpad have moved apart, at most 4 at once. */
export function pinchOf(deltaPx: number): number {
  return Math.min(Math.max(Math.exp(-deltaPx / PX_PER_PINCH), 0.25), 4);
}
