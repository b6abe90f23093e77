import { screenToWorld, type Camera, type ScreenPoint, type Viewport } from './camera.ts';
import { clampScale, type ScaleLimits } from './limits.ts';

/** How many times a lens enlarges. */
export const lensRatio = { min: 1.5, max: 64, usual: 4 } as const;

/** The enlargement of a lens, kept within its limits. */
export const clampRatio = (ratio: number): number => Math.min(Math.max(ratio, lensRatio.min), lensRatio.max);

/** What a lens shows: the point under the cursor in its middle, enlarged; under a twist, too. */
export function lensCamera(
  camera: Camera,
  viewport: Viewport,
  at: ScreenPoint,
  ratio: number,
  limits: ScaleLimits,
): Camera {
  const target = screenToWorld(camera, viewport, at);
  return { ...camera, target, unitsPerPx: clampScale(camera.unitsPerPx / ratio, limits) };
}
