import { along3 } from '../geometry/vec.ts';
import { screenOffset, type Camera, type ScreenPoint, type Viewport } from './camera.ts';
import { clampScale, type ScaleLimits } from './limits.ts';

/**
 * Brings the drawing closer (`factor` > 1) or takes it farther (< 1) about a screen point: the world point under it
 * stays under it, also when a limit cuts the step short. At a limit the same camera comes back.
 */
export function zoomAbout(
  camera: Camera,
  viewport: Viewport,
  at: ScreenPoint,
  factor: number,
  limits: ScaleLimits,
): Camera {
  if (!(factor > 0 && Number.isFinite(factor))) {
    throw new RangeError(`zoomAbout: factor must be finite and > 0, got ${String(factor)}`);
  }
  const unitsPerPx = clampScale(camera.unitsPerPx / factor, limits);
  if (unitsPerPx === camera.unitsPerPx) return camera;
  const offset = screenOffset(camera, viewport, at);
  return { ...camera, unitsPerPx, target: along3(camera.target, offset, 1 - unitsPerPx / camera.unitsPerPx) };
}

/** Zooms about the middle of the pane: what Closer and Farther do. */
export function zoomAboutMiddle(camera: Camera, viewport: Viewport, factor: number, limits: ScaleLimits): Camera {
  return zoomAbout(camera, viewport, { x: viewport.widthPx / 2, y: viewport.heightPx / 2 }, factor, limits);
}
