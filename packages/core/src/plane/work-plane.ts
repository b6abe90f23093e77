import { cameraAxes, type Camera } from '../camera/camera.ts';
import type { Sight } from '../camera/projection.ts';
import { quaternionOfAxes } from '../geometry/quaternion.ts';
import { add3, along3, cross3, dot3, length3, scale3, sub3, unit3, type Vec3 } from '../geometry/vec.ts';

/** The plane that points are placed in while they snap to nothing. Axes: unit vectors at right angles. */
export interface WorkPlane {
  readonly origin: Vec3;
  readonly x: Vec3;
  readonly y: Vec3;
}

export const worldPlane: WorkPlane = {
  origin: { x: 0, y: 0, z: 0 },
  x: { x: 1, y: 0, z: 0 },
  y: { x: 0, y: 1, z: 0 },
};

/** The unit normal of a plane, so that x, y and it are right-handed. */
export const normalOf = ({ x, y }: WorkPlane): Vec3 => cross3(x, y);

/** Less than this of the longest side apart, three points are on a line. */
const FLAT = 1e-9;

/** From an origin, a point on the x axis, and one on the side of y. @returns null for points on a line */
export function planeByPoints(origin: Vec3, onX: Vec3, towardsY: Vec3): WorkPlane | null {
  const [u, v] = [sub3(onX, origin), sub3(towardsY, origin)];
  const normal = cross3(u, v);
  const [lengthU, lengthV] = [length3(u), length3(v)];
  if (!(length3(normal) > FLAT * lengthU * lengthV) || lengthU === 0 || lengthV === 0) return null;
  const x = scale3(u, 1 / lengthU);
  return { origin, x, y: unit3(cross3(normal, x)) };
}

/** On a face: x level, y upwards as far as it goes; on level faces east and north. @param normal unit vector */
export function planeByFace(origin: Vec3, normal: Vec3): WorkPlane {
  const level = Math.hypot(normal.x, normal.y);
  const x = level > 1e-9 ? { x: -normal.y / level, y: normal.x / level, z: 0 } : { x: 1, y: 0, z: 0 };
  const y = unit3(cross3(normal, x));
  return { origin, x, y };
}

/** Along an edge, and in a direction that isn't the edge's. @returns null if it is */
export const planeByEdge = (from: Vec3, to: Vec3, direction: Vec3): WorkPlane | null =>
  planeByPoints(from, to, add3(from, direction));

/** As the view stands, through a point: x to the right, y up on the screen. */
export function planeOfView(camera: Camera, through: Vec3): WorkPlane {
  const { right, up } = cameraAxes(camera);
  return { origin: through, x: right, y: up };
}

/** The same plane so far along its normal. @param by drawing units */
export const offsetPlane = (plane: WorkPlane, by: number): WorkPlane => ({
  ...plane,
  origin: along3(plane.origin, normalOf(plane), by),
});

/** A place by the plane's own axes: along x, along y, above. */
export function onPlane(plane: WorkPlane, p: Vec3): Vec3 {
  const out = sub3(p, plane.origin);
  return { x: dot3(out, plane.x), y: dot3(out, plane.y), z: dot3(out, normalOf(plane)) };
}

/** A point in the axes of a plane, as a point of the world; drawing units. */
export function fromPlane(plane: WorkPlane, { x, y, z }: Vec3): Vec3 {
  return along3(along3(along3(plane.origin, plane.x, x), plane.y, y), normalOf(plane), z);
}

/** Where a line of sight meets the plane; null if it runs along it, or away from it in a view from an eye. */
export function meetPlane(plane: WorkPlane, { from, along }: Sight, isParallel: boolean): Vec3 | null {
  const normal = normalOf(plane);
  const slope = dot3(along, normal);
  if (Math.abs(slope) < 1e-6) return null;
  const way = dot3(sub3(plane.origin, from), normal) / slope;
  return way > 0 || isParallel ? along3(from, along, way) : null;
}

/** The view straight at the plane from the side that it is seen from, x to the right. */
export function straightAt(camera: Camera, plane: WorkPlane): Camera {
  const { back } = cameraAxes(camera);
  const normal = normalOf(plane);
  const side = dot3(back, normal) >= 0 ? 1 : -1;
  // from behind x runs to the left, or the picture would be a mirror's
  const orientation = quaternionOfAxes(scale3(plane.x, side), plane.y, scale3(normal, side));
  return { ...camera, orientation };
}

/** Whether two planes have the same origin and axes, to the last bit. */
export const samePlane = (a: WorkPlane, b: WorkPlane): boolean =>
  (['origin', 'x', 'y'] as const).every(
    (part) => a[part].x === b[part].x && a[part].y === b[part].y && a[part].z === b[part].z,
  );
