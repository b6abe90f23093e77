import type { Vec3 } from '../geometry/vec.ts';
import { cameraAxes, eyeDistance, worldToScreen, type Camera, type Viewport } from './camera.ts';

const axes = ['x', 'y', 'z'] as const;

/**
 * The middle of the box around points, if all of them are in sight.
 * @param points x, y, z triples, drawing units
 * @returns null if any lies outside the pane or behind the eye, or if there are none
 */
export function middleIfInSight(camera: Camera, viewport: Viewport, points: ArrayLike<number>): Vec3 | null {
  if (points.length < 3) return null;
  const { target } = camera;
  const { back } = cameraAxes(camera);
  const eyeHeight = camera.projection === 'parallel' ? Infinity : eyeDistance(camera, viewport);
  const min = { x: Infinity, y: Infinity, z: Infinity };
  const max = { x: -Infinity, y: -Infinity, z: -Infinity };
  for (let i = 0; i < points.length; i += 3) {
    const point = { x: points[i]!, y: points[i + 1]!, z: points[i + 2]! };
    const height = axes.reduce((sum, axis) => sum + (point[axis] - target[axis]) * back[axis], 0);
    if (height >= eyeHeight) return null;
    const { x, y } = worldToScreen(camera, viewport, point);
    if (x < 0 || y < 0 || x > viewport.widthPx || y > viewport.heightPx) return null;
    for (const axis of axes) {
      min[axis] = Math.min(min[axis], point[axis]);
      max[axis] = Math.max(max[axis], point[axis]);
    }
  }
  return { x: min.x + (max.x - min.x) / 2, y: min.y + (max.y - min.y) / 2, z: min.z + (max.z - min.z) / 2 };
}
