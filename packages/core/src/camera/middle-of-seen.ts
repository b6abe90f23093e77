import type { Vec3 } from '../geometry/vec.ts';
import type { Camera, ScreenPoint, Viewport } from './camera.ts';

/** Lines of sight that are tried in each direction. */
const TRIES = 7;

/**
 * The middle of what is visible: the mean of where lines of sight, spread over the pane, meet a surface.
 * @param surfaceAt null if nothing can be met
 * @returns the target if none meets anything
 */
export function middleOfSeen(
  camera: Camera,
  viewport: Viewport,
  surfaceAt: ((camera: Camera, viewport: Viewport, at: ScreenPoint) => Vec3 | null) | null,
): Vec3 {
  if (!surfaceAt) return camera.target;
  // differences to the target keep large coordinates exact
  const sum = { x: 0, y: 0, z: 0 };
  let met = 0;
  for (let i = 0; i < TRIES * TRIES; i++) {
    const [column, row] = [i % TRIES, Math.floor(i / TRIES)];
    const at = { x: ((column + 0.5) / TRIES) * viewport.widthPx, y: ((row + 0.5) / TRIES) * viewport.heightPx };
    const point = surfaceAt(camera, viewport, at);
    if (!point) continue;
    met++;
    sum.x += point.x - camera.target.x;
    sum.y += point.y - camera.target.y;
    sum.z += point.z - camera.target.z;
  }
  if (met === 0) return camera.target;
  const { target } = camera;
  return { x: target.x + sum.x / met, y: target.y + sum.y / met, z: target.z + sum.z / met };
}
