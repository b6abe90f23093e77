import { dot3, scale3, add3, sub3, type Vec3 } from '../geometry/vec.ts';
import { FIT_MARGIN_PX } from './fit.ts';
import {
  USUAL_FOV_RAD,
  cameraAxes,
  eyeDistance,
  eyeOf,
  screenToWorld,
  type Camera,
  type ScreenPoint,
  type Viewport,
} from './camera.ts';
import { clampScale, type ScaleLimits } from './limits.ts';

/** Fields of view that can be looked through, radians: from a long lens to the corner of an eye. */
export const FOV_LIMITS_RAD = { min: (5 * Math.PI) / 180, max: (120 * Math.PI) / 180 } as const;

/** The parallel view that shows what lies at the target's depth as large as before. */
export function toParallel({ target, orientation, unitsPerPx }: Camera): Camera {
  return { projection: 'parallel', target, orientation, unitsPerPx };
}

/**
 * The perspective view that shows what lies at the target's depth as large as before: the eye moves, the target stays.
 * @param fovRad vertical field of view; held to {@link FOV_LIMITS_RAD}
 */
export function toPerspective(camera: Camera, fovRad = USUAL_FOV_RAD): Camera {
  const held = Math.min(Math.max(fovRad, FOV_LIMITS_RAD.min), FOV_LIMITS_RAD.max);
  return { ...toParallel(camera), projection: 'perspective', fovRad: held };
}

/** The same view with its target, and so what keeps its size when the projection changes, at the depth of a point. */
export function focusedAt(camera: Camera, viewport: Viewport, point: Vec3): Camera {
  const { back } = cameraAxes(camera);
  const towards = dot3(sub3(point, camera.target), back);
  if (camera.projection === 'parallel') return { ...camera, target: add3(camera.target, scale3(back, towards)) };
  const distance = dot3(sub3(eyeOf(camera, viewport), camera.target), back);
  const depth = distance - towards;
  if (!(depth > 0)) return camera;
  const unitsPerPx = (camera.unitsPerPx * depth) / distance;
  return { ...camera, unitsPerPx, target: add3(camera.target, scale3(back, towards)) };
}

/** A line of sight: where it begins and its unit direction away from the viewer. */
export interface Sight {
  readonly from: Vec3;
  readonly along: Vec3;
}

/** What lies under a screen point, as a line: in a parallel view from the plane of the target, else from the eye. */
export function sightThrough(camera: Camera, viewport: Viewport, at: ScreenPoint): Sight {
  const { back } = cameraAxes(camera);
  const onPlane = screenToWorld(camera, viewport, at);
  if (camera.projection === 'parallel') return { from: onPlane, along: scale3(back, -1) };
  const eye = eyeOf(camera, viewport);
  const way = sub3(onPlane, eye);
  return { from: eye, along: scale3(way, 1 / Math.hypot(way.x, way.y, way.z)) };
}

/**
 * Brings the model closer (`factor` > 1) or takes it farther about a point of it: the whole view is scaled about the
 * point, so that it stays where it is seen, in either projection, and is never passed.
 */
export function zoomAboutPoint(camera: Camera, point: Vec3, factor: number, limits: ScaleLimits): Camera {
  if (!(factor > 0 && Number.isFinite(factor)))
    throw new RangeError(`zoomAboutPoint: factor must be finite and > 0, got ${String(factor)}`);
  const unitsPerPx = clampScale(camera.unitsPerPx / factor, limits);
  if (unitsPerPx === camera.unitsPerPx) return camera;
  const share = unitsPerPx / camera.unitsPerPx;
  return { ...camera, unitsPerPx, target: add3(point, scale3(sub3(camera.target, point), share)) };
}

/**
 * Moves a perspective camera, keeping its direction and field of view, to the smallest distance at which all points lie
 * within the margin. Each side of the view is a plane through the eye; how far out the points reach along its normal,
 * their support, is all that counts, so the hull of what shall be seen is enough.
 * @param points x, y, z triples in drawing units
 * @returns the same camera if there are no points
 */
export function fitPerspective(
  camera: Camera,
  viewport: Viewport,
  points: ArrayLike<number>,
  limits: ScaleLimits,
  marginPx = FIT_MARGIN_PX,
): Camera {
  if (points.length < 3) return camera;
  const { right, up, back } = cameraAxes(camera);
  const base: Vec3 = { x: points[0]!, y: points[1]!, z: points[2]! }; // differences to it keep large coordinates exact
  const half = Math.tan((camera.fovRad ?? USUAL_FOV_RAD) / 2);
  const slopeY = (half * Math.max(viewport.heightPx - 2 * marginPx, 1)) / viewport.heightPx;
  const slopeX = (half * Math.max(viewport.widthPx - 2 * marginPx, 1)) / viewport.heightPx;
  // the points' reach along the four sides' normals and in depth, in the camera's axes about the base
  let [left, rightmost, bottom, top] = [Infinity, -Infinity, Infinity, -Infinity];
  let [nearest, farthest] = [-Infinity, Infinity];
  for (let i = 0; i + 2 < points.length; i += 3) {
    const offset = sub3({ x: points[i]!, y: points[i + 1]!, z: points[i + 2]! }, base);
    const [x, y, z] = [dot3(offset, right), dot3(offset, up), dot3(offset, back)];
    left = Math.min(left, x - slopeX * z);
    rightmost = Math.max(rightmost, x + slopeX * z);
    bottom = Math.min(bottom, y - slopeY * z);
    top = Math.max(top, y + slopeY * z);
    nearest = Math.max(nearest, z);
    farthest = Math.min(farthest, z);
  }
  const tight = Math.max((rightmost - left) / (2 * slopeX), (top - bottom) / (2 * slopeY));
  // what is but a point or a line of sight can be seen from anywhere before it
  const closest = tight - nearest > 1e-9 * (nearest - farthest) ? tight : nearest + eyeDistance(camera, viewport);
  const middle = { x: (left + rightmost) / 2, y: (bottom + top) / 2, z: (nearest + farthest) / 2 };
  const unitsPerPx = clampScale(((closest - middle.z) * 2 * half) / viewport.heightPx, limits);
  // where a limit keeps the scale, the eye goes farther on the same line
  const offset = add3(add3(scale3(right, middle.x), scale3(up, middle.y)), scale3(back, middle.z));
  return { ...camera, projection: 'perspective', unitsPerPx, target: add3(base, offset) };
}
