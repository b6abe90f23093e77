import { add3, dot3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';
import { cameraAxes, type Camera, type Viewport } from './camera.ts';
import { clampScale, type ScaleLimits } from './limits.ts';

/** Free space that a fit leaves on every side, CSS px. */
export const FIT_MARGIN_PX = 16;

/**
 * Moves the camera, keeping its direction, so that the points touch the margin in the tighter direction.
 * @param points x, y, z triples in drawing units; the hull of what shall be seen is enough
 * @returns the same camera if there are no points
 */
export function fitPoints(
  camera: Camera,
  viewport: Viewport,
  points: ArrayLike<number>,
  limits: ScaleLimits,
  marginPx = FIT_MARGIN_PX,
): Camera {
  if (points.length < 3) return camera;
  const { right, up, back } = cameraAxes(camera);
  const base: Vec3 = { x: points[0]!, y: points[1]!, z: points[2]! }; // differences to it keep large coordinates exact
  const spans = [right, up, back].map((axis) => spanAlong(axis, base, points));
  const [across, upwards, depth] = spans as [Span, Span, Span];
  const roomX = Math.max(viewport.widthPx - 2 * marginPx, 1);
  const roomY = Math.max(viewport.heightPx - 2 * marginPx, 1);
  const wanted = Math.max((across.max - across.min) / roomX, (upwards.max - upwards.min) / roomY);
  const middle = add3(
    add3(scale3(right, (across.min + across.max) / 2), scale3(up, (upwards.min + upwards.max) / 2)),
    scale3(back, (depth.min + depth.max) / 2),
  );
  return {
    ...camera,
    target: add3(base, middle),
    unitsPerPx: clampScale(wanted > 0 ? wanted : camera.unitsPerPx, limits),
  };
}

interface Span {
  readonly min: number;
  readonly max: number;
}

function spanAlong(axis: Vec3, base: Vec3, points: ArrayLike<number>): Span {
  let min = Infinity;
  let max = -Infinity;
  for (let i = 0; i + 2 < points.length; i += 3) {
    const reach = dot3(sub3({ x: points[i]!, y: points[i + 1]!, z: points[i + 2]! }, base), axis);
    if (reach < min) min = reach;
    if (reach > max) max = reach;
  }
  return { min, max };
}
