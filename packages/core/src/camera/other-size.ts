import type { Camera, Viewport } from './camera.ts';

/**
 * A view of one pane in another: the very same in one of its size, in any other with all that was seen.
 * @param from the pane that the view was taken in
 * @param to the pane that shows it
 */
export function inOtherSize(camera: Camera, from: Viewport, to: Viewport): Camera {
  if (from.widthPx === to.widthPx && from.heightPx === to.heightPx) return camera;
  const factor = Math.max(from.widthPx / Math.max(to.widthPx, 1), from.heightPx / Math.max(to.heightPx, 1));
  return { ...camera, unitsPerPx: camera.unitsPerPx * factor };
}
