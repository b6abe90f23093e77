import { aboutAxis, multiply, rotate, type Quaternion } from '../geometry/quaternion.ts';
import { add3, dot3, sub3, type Vec3 } from '../geometry/vec.ts';
import { cameraAxes, type Camera } from './camera.ts';

/**
 * Directions of look in a solid view. Tilt: +90° looks straight down on the model, 0 level, −90° straight up from below.
 * Bearing: heading of the look, clockwise from north; looking straight down or up, what lies at the top or bottom.
 */
export interface Direction {
  readonly bearingRad: number;
  readonly tiltRad: number;
}

const QUARTER = Math.PI / 2;
const TURN = 2 * Math.PI;
const zAxis: Vec3 = { x: 0, y: 0, z: 1 };
const xAxis: Vec3 = { x: 1, y: 0, z: 0 };

/** A view of that direction with a level horizon. The plan with north up is the identity, bit for bit. */
export function orientationOf({ bearingRad, tiltRad }: Direction): Quaternion {
  const tilted = aboutAxis(xAxis, QUARTER - tiltRad);
  return multiply(aboutAxis(zAxis, -bearingRad), tilted);
}

/** The direction of a view; how it rolls about its line of sight is left out. */
export function directionOf({ orientation }: Pick<Camera, 'orientation'>): Direction {
  const back = rotate(orientation, zAxis);
  const up = rotate(orientation, { x: 0, y: 1, z: 0 });
  const level = Math.hypot(back.x, back.y);
  const tiltRad = Math.atan2(back.z, level);
  // near the poles the line of sight has no bearing: what lies at the top has
  const [east, north] = level > 1e-7 ? [-back.x, -back.y] : back.z > 0 ? [up.x, up.y] : [-up.x, -up.y];
  return { bearingRad: ((Math.atan2(east, north) % TURN) + TURN) % TURN, tiltRad };
}

/** How far a view is rolled about its line of sight, counterclockwise; 0 with a level horizon. */
export function rollOf(camera: Pick<Camera, 'orientation'>): number {
  const level = orientationOf(directionOf(camera));
  const { orientation } = camera;
  const right = rotate(orientation, xAxis);
  return Math.atan2(dot3(right, rotate(level, { x: 0, y: 1, z: 0 })), dot3(right, rotate(level, xAxis)));
}

/**
 * Turns a view to another direction about a point that stays where it is seen.
 * @param pivot world point
 */
export function turnAbout(camera: Camera, pivot: Vec3, orientation: Quaternion): Camera {
  const unit = normalised(orientation);
  const before = cameraAxes(camera);
  const offset = sub3(camera.target, pivot);
  // the offset in the camera's own axes is kept
  const own = { x: dot3(offset, before.right), y: dot3(offset, before.up), z: dot3(offset, before.back) };
  return { ...camera, orientation: unit, target: add3(pivot, rotate(unit, own)) };
}

/**
 * Orbit with a level horizon: bearing and tilt change, the tilt ends at straight above and below and keeps the bearing
 * there. A view that rolls is turned as it is rolled.
 * @param right how far the model turns to the right, radians
 * @param down how far it turns towards the viewer at its top: positive looks more from above
 */
export function orbitLevel(camera: Camera, pivot: Vec3, right: number, down: number): Camera {
  const { bearingRad, tiltRad } = directionOf(camera);
  const tilt = Math.min(Math.max(tiltRad + down, -QUARTER), QUARTER);
  return turnAbout(camera, pivot, orientationOf({ bearingRad: bearingRad + right, tiltRad: tilt }));
}

/** Orbit without limits: about the screen's own axes, however the model lies. */
export function orbitOpen(camera: Camera, pivot: Vec3, right: number, down: number): Camera {
  const angle = Math.hypot(right, down);
  if (angle === 0) return camera;
  // a hand that moves right turns the model about the screen's vertical axis: the camera turns the other way
  const axis = { x: -down / angle, y: -right / angle, z: 0 };
  return turnAbout(camera, pivot, multiply(camera.orientation, aboutAxis(axis, angle)));
}

/** Axes that an orbit can be held to: of the screen, the line of sight, or of the model. */
export type OrbitAxis = 'across' | 'upright' | 'sight' | 'x' | 'y' | 'z';

/**
 * Orbit about one axis.
 * @param angleRad how far the model turns, anticlockwise seen from the axis' tip
 */
export function orbitAxis(camera: Camera, pivot: Vec3, axis: OrbitAxis, angleRad: number): Camera {
  const { right, up, back } = cameraAxes(camera);
  const world = { across: right, upright: up, sight: back, x: xAxis, y: { x: 0, y: 1, z: 0 }, z: zAxis }[axis];
  return turnAbout(camera, pivot, multiply(aboutAxis(world, -angleRad), camera.orientation));
}

/** The view without its roll: the shortest way to a level horizon, about a point that stays where it is seen. */
export function levelUp(camera: Camera, pivot: Vec3 = camera.target): Camera {
  return turnAbout(camera, pivot, orientationOf(directionOf(camera)));
}

/** Whether two orientations are one, but for rounding. Unit quaternions; a quaternion and its negative turn alike. */
export const sameDirection = (a: Quaternion, b: Quaternion): boolean =>
  1 - Math.abs(a.x * b.x + a.y * b.y + a.z * b.z + a.w * b.w) < 1e-12;

const normalised = ({ x, y, z, w }: Quaternion): Quaternion => {
  const length = Math.hypot(x, y, z, w);
  return { x: x / length, y: y / length, z: z / length, w: w / length };
};
