import { USUAL_FOV_RAD, planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { directionOf, orientationOf, rollOf } from '@gull-pane/core/camera/orbit';
import { bearingOf, twistTo } from '@gull-pane/core/camera/twist';
import { aboutAxis, multiply } from '@gull-pane/core/geometry/quaternion';

/**
 * The part of a page's address that says where a pane looks: `x`, `y`, `s` (drawing units per px), `up`
 * (bearing at the top, degrees, where it isn't north), `hide` (layers); of views that aren't plans `z` and `dir` (bearing,
 * tilt and, if it isn't level, roll, degrees), in perspective `fov` (degrees).
 */
export interface ViewAddress {
  readonly camera: Camera | null;
  /** Null if it says nothing of layers. */
  readonly hidden: readonly number[] | null;
}

const toRad = (degrees: number): number => (degrees * Math.PI) / 180;
const toDegrees = (angleRad: number): number => (angleRad * 180) / Math.PI;
/** Directions nearer to straight down than this are plans. */
const PLAN_RAD = 1e-9;

export function readViewAddress(search: URLSearchParams): ViewAddress {
  const number = (name: string, otherwise: number): number => {
    const value = Number(search.get(name) ?? otherwise);
    return Number.isFinite(value) ? value : otherwise;
  };
  const [x, y, s] = [number('x', NaN), number('y', NaN), number('s', NaN)];
  const isView = [x, y, s].every(Number.isFinite) && s > 0;
  const hidden = search
    .get('hide')
    ?.split(',')
    .filter((part) => /^\d+$/.test(part));
  let camera = isView ? planCamera({ x, y, z: number('z', 0) }, s) : null;
  if (camera) {
    const [bearing, tilt, roll = 0] = (search.get('dir') ?? '').split(',').map(Number);
    camera =
      bearing !== undefined && tilt !== undefined && [bearing, tilt, roll].every(Number.isFinite)
        ? { ...camera, orientation: rolledOrientation(toRad(bearing), toRad(tilt), toRad(roll)) }
        : twistTo(camera, toRad(number('up', 0)));
    const fov = number('fov', 0);
    if (fov > 0 && fov < 170) camera = { ...camera, projection: 'perspective', fovRad: toRad(fov) };
  }
  return { camera, hidden: hidden?.map(Number) ?? null };
}

const rolledOrientation = (bearingRad: number, tiltRad: number, rollRad: number): Camera['orientation'] => {
  const level = orientationOf({ bearingRad, tiltRad });
  return rollRad === 0 ? level : multiply(level, aboutAxis({ x: 0, y: 0, z: 1 }, rollRad));
};

/**
 * Doubles are written in full, so that a reload brings back the very view.
 * @param hidden layers; those hidden at first if nothing is said of them
 */
export function writeViewAddress(
  camera: Camera,
  hidden: ReadonlySet<number>,
  hiddenAtFirst: ReadonlySet<number> = new Set(),
): URLSearchParams {
  const search = new URLSearchParams({
    x: String(camera.target.x),
    y: String(camera.target.y),
    s: String(camera.unitsPerPx),
  });
  if (camera.target.z !== 0) search.set('z', String(camera.target.z));
  const { bearingRad, tiltRad } = directionOf(camera);
  if (Math.PI / 2 - tiltRad > PLAN_RAD) {
    const roll = toDegrees(rollOf(camera));
    const parts = [toDegrees(bearingRad), toDegrees(tiltRad), ...(Math.abs(roll) > 1e-6 ? [roll] : [])];
    search.set('dir', parts.join(','));
  } else if (bearingOf(camera) !== 0) search.set('up', String(toDegrees(bearingOf(camera))));
  if (camera.projection === 'perspective') search.set('fov', String(toDegrees(camera.fovRad ?? USUAL_FOV_RAD)));
  const isAsAtFirst = hidden.size === hiddenAtFirst.size && [...hidden].every((layer) => hiddenAtFirst.has(layer));
  if (!isAsAtFirst) search.set('hide', [...hidden].sort((a, b) => a - b).join(','));
  return search;
}
