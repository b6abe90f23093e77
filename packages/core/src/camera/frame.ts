import { screenToWorld, type Camera, type ScreenPoint, type Viewport } from './camera.ts';
import { clampScale, type ScaleLimits } from './limits.ts';

/** Corners closer together than this in both directions are a slip of the hand, CSS px. */
export const SMALLEST_FRAME_PX = 3;

/**
 * Makes the framed area fill the pane: its middle comes to the middle and its tighter side touches the pane's sides.
 * @param a one corner, CSS px in the present view
 * @param b the opposite corner
 * @returns the same camera if the frame has no size
 */
export function frameCorners(
  camera: Camera,
  viewport: Viewport,
  a: ScreenPoint,
  b: ScreenPoint,
  limits: ScaleLimits,
): Camera {
  const widthPx = Math.abs(b.x - a.x);
  const heightPx = Math.abs(b.y - a.y);
  if (widthPx < SMALLEST_FRAME_PX && heightPx < SMALLEST_FRAME_PX) return camera;
  const share = Math.max(widthPx / viewport.widthPx, heightPx / viewport.heightPx);
  return {
    ...camera,
    target: screenToWorld(camera, viewport, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }),
    unitsPerPx: clampScale(camera.unitsPerPx * share, limits),
  };
}
