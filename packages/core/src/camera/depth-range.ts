import { dot3, sub3, type Vec3 } from '../geometry/vec.ts';
import { cameraAxes, eyeDistance, type Camera, type Viewport } from './camera.ts';

/** Nearest to farthest that a depth buffer of 24 bits can tell apart in perspective. */
const NEAREST_SHARE = 2e-5;
/** So much is left free before and behind. */
const SLACK = 0.01;

export interface DepthRange {
  /** From the eye, drawing units; in a parallel view from the plane of the target, negative before it. */
  readonly near: number;
  readonly far: number;
}

/**
 * Between which depths everything wanted lies, so that nothing of it is cut, from a bolt to the whole site.
 * @param boxes middles and half sizes of what may be seen
 */
export function depthRange(
  camera: Camera,
  viewport: Viewport,
  boxes: Iterable<{ readonly centre: Vec3; readonly halfSize: Vec3 }>,
): DepthRange {
  const { back } = cameraAxes(camera);
  const offset = camera.projection === 'perspective' ? eyeDistance(camera, viewport) : 0;
  let [near, far] = [Infinity, -Infinity];
  for (const { centre, halfSize } of boxes) {
    const depth = offset - dot3(sub3(centre, camera.target), back);
    const reach = halfSize.x * Math.abs(back.x) + halfSize.y * Math.abs(back.y) + halfSize.z * Math.abs(back.z);
    near = Math.min(near, depth - reach);
    far = Math.max(far, depth + reach);
  }
  if (!(near <= far)) return { near: offset + 1, far: offset + 2 };
  const slack = Math.max((far - near) * SLACK, camera.unitsPerPx);
  [near, far] = [near - slack, far + slack];
  if (camera.projection === 'parallel') return { near, far };
  far = Math.max(far, camera.unitsPerPx);
  return { near: Math.max(near, far * NEAREST_SHARE), far };
}
