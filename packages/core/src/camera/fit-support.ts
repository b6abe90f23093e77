import type { Camera, Viewport } from './camera.ts';
import { fitPoints } from './fit.ts';
import type { ScaleLimits } from './limits.ts';
import { fitPerspective } from './projection.ts';

/**
 * Moves the camera, keeping its direction and projection, so that the points touch the margin in the tighter direction.
 * @param points x, y, z triples in drawing units; the hull of what shall be seen is enough
 * @returns the same camera if there are no points
 */
export const fitSupport = (
  camera: Camera,
  viewport: Viewport,
  points: ArrayLike<number>,
  limits: ScaleLimits,
): Camera =>
  camera.projection === 'perspective'
    ? fitPerspective(camera, viewport, points, limits)
    : fitPoints(camera, viewport, points, limits);
