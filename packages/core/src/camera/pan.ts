import { add3, along3 } from '../geometry/vec.ts';
import { cameraAxes, screenToWorld, type Camera, type ScreenPoint, type Viewport } from './camera.ts';

/** Moves what is seen by `dx` to the right and `dy` down, CSS px: the drawing follows the hand. */
export function panBy(camera: Camera, dx: number, dy: number): Camera {
  if (dx === 0 && dy === 0) return camera;
  const { right, up } = cameraAxes(camera);
  const target = add3(along3(camera.target, right, -dx * camera.unitsPerPx), {
    x: up.x * dy * camera.unitsPerPx,
    y: up.y * dy * camera.unitsPerPx,
    z: up.z * dy * camera.unitsPerPx,
  });
  return { ...camera, target };
}

/** Brings the point seen at `at` to the middle of the pane. */
export function centreAt(camera: Camera, viewport: Viewport, at: ScreenPoint): Camera {
  if (at.x === viewport.widthPx / 2 && at.y === viewport.heightPx / 2) return camera;
  return { ...camera, target: screenToWorld(camera, viewport, at) };
}
