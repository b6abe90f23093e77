import { dot3, sub3, type Vec3 } from '../geometry/vec.ts';
import { cameraAxes, worldToScreen, type Camera, type Viewport } from './camera.ts';
import { FIT_MARGIN_PX, fitPoints } from './fit.ts';
import { clampScale, type ScaleLimits } from './limits.ts';
import { panBy } from './pan.ts';
import { fitPerspective } from './projection.ts';

/** A viewport of which something covers a part. */
export interface FitViewport extends Viewport {
  /** The size of what covers the lower right corner, its distance from what is fitted included. */
  readonly covered?: Viewport;
}

/**
 * Moves the camera, keeping its direction and projection, so that the points touch the margin in the tighter direction
 * and none lies under what covers the lower right corner.
 * @param points x, y, z triples in drawing units; the hull of what shall be seen is enough
 * @returns the same camera if there are no points
 */
export function fitSupport(
  camera: Camera,
  viewport: FitViewport,
  points: ArrayLike<number>,
  limits: ScaleLimits,
): Camera {
  const { covered } = viewport;
  const isPerspective = camera.projection === 'perspective';
  const whole = (isPerspective ? fitPerspective : fitPoints)(camera, viewport, points, limits);
  if (!covered || points.length < 3 || isClearOf(covered, whole, viewport, points)) return whole;
  return isPerspective
    ? besideInPerspective(covered, camera, viewport, points, limits)
    : besideInParallel(covered, whole, viewport, points, limits);
}

/** Whether some line leaves all points, as seen, on one side and the covered corner on the other. */
function isClearOf(covered: Viewport, camera: Camera, viewport: Viewport, points: ArrayLike<number>): boolean {
  const corner = { x: viewport.widthPx - covered.widthPx, y: viewport.heightPx - covered.heightPx };
  const seen = (i: number): { readonly x: number; readonly y: number } =>
    worldToScreen(camera, viewport, { x: points[i]!, y: points[i + 1]!, z: points[i + 2]! });
  // a line through the corner, its normal turned by 0 to 90° from rightwards to downwards: each point leaves a range
  let [from, to] = [0, Math.PI / 2];
  for (let i = 0; i + 2 < points.length; i += 3) {
    const { x, y } = seen(i);
    const [right, down] = [x - corner.x, y - corner.y];
    if (right > 0) from = Math.max(from, down > 0 ? Infinity : Math.atan2(right, -down));
    else if (down > 0) to = Math.min(to, Math.atan2(-right, down));
    if (from > to) return false;
  }
  return true;
}

/** So often a range is halved: to less than a thousandth of a px. */
const HALVINGS = 24;

/** The greatest number from 0 to 1 for which a test that holds up to some number still holds. */
function greatest(holds: (share: number) => boolean): number {
  if (holds(1)) return 1;
  let [good, bad] = [0, 1];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (good + bad) / 2;
    if (holds(middle)) good = middle;
    else bad = middle;
  }
  return good;
}

/**
 * As large and as central as possible. Moving up and left always leads away from the covered corner, so the largest
 * possible size is found with the points pushed to the upper left.
 */
function besideInParallel(
  covered: Viewport,
  whole: Camera,
  viewport: Viewport,
  points: ArrayLike<number>,
  limits: ScaleLimits,
): Camera {
  const { right, up } = cameraAxes(whole);
  const [across, upwards] = [reachAlong(right, whole.target, points), reachAlong(up, whole.target, points)];
  const fitting = (widthPx: number, heightPx: number): number =>
    Math.max(across / Math.max(widthPx - 2 * FIT_MARGIN_PX, 1), upwards / Math.max(heightPx - 2 * FIT_MARGIN_PX, 1));
  const { widthPx, heightPx } = viewport;
  // wholly beside the corner or wholly above it: from there on it grows
  const least = Math.min(fitting(widthPx - covered.widthPx, heightPx), fitting(widthPx, heightPx - covered.heightPx));
  const slack = (size: number, room: number, unitsPerPx: number): number =>
    Math.max((room - 2 * FIT_MARGIN_PX - size / unitsPerPx) / 2, 0);
  const at = (growth: number, towardsMiddle: number): Camera => {
    const unitsPerPx = clampScale(least + (whole.unitsPerPx - least) * growth, limits);
    const away = towardsMiddle - 1;
    return panBy(
      { ...whole, unitsPerPx },
      away * slack(across, widthPx, unitsPerPx),
      away * slack(upwards, heightPx, unitsPerPx),
    );
  };
  const growth = greatest((share) => isClearOf(covered, at(share, 0), viewport, points));
  return at(
    growth,
    greatest((share) => isClearOf(covered, at(growth, share), viewport, points)),
  );
}

/** How far the points reach along an axis, drawing units. */
function reachAlong(axis: Vec3, base: Vec3, points: ArrayLike<number>): number {
  let [min, max] = [Infinity, -Infinity];
  for (let i = 0; i + 2 < points.length; i += 3) {
    const reach = dot3(sub3({ x: points[i]!, y: points[i + 1]!, z: points[i + 2]! }, base), axis);
    [min, max] = [Math.min(min, reach), Math.max(max, reach)];
  }
  return max - min;
}

/** Fitted into what is left of the covered corner, then moved there; with no more left free than is needed. */
function besideInPerspective(
  covered: Viewport,
  camera: Camera,
  viewport: Viewport,
  points: ArrayLike<number>,
  limits: ScaleLimits,
): Camera {
  const leaving = (free: number): Camera => {
    const widthPx = Math.max(viewport.widthPx - free, 1);
    return panBy(fitPerspective(camera, { ...viewport, widthPx }, points, limits), -free / 2, 0);
  };
  const used = greatest((share) => {
    const fitted = leaving(covered.widthPx * (1 - share));
    return isClearOf(covered, fitted, viewport, points) && isInside(fitted, viewport, points);
  });
  return leaving(covered.widthPx * (1 - used));
}

function isInside(camera: Camera, viewport: Viewport, points: ArrayLike<number>): boolean {
  const { widthPx, heightPx } = viewport;
  for (let i = 0; i + 2 < points.length; i += 3) {
    const { x, y } = worldToScreen(camera, viewport, { x: points[i]!, y: points[i + 1]!, z: points[i + 2]! });
    if (!(x >= 0 && y >= 0 && x <= widthPx && y <= heightPx)) return false;
  }
  return true;
}
