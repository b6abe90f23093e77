import { aboutAxis, identityQuaternion, multiply, type Quaternion } from '../geometry/quaternion.ts';
import { along3, type Vec2, type Vec3 } from '../geometry/vec.ts';
import { cameraAxes, screenOffset, type Camera, type ScreenPoint, type Viewport } from './camera.ts';

const TURN = 2 * Math.PI;
/** Angles closer to a quarter turn than this are one: what is left of rounding doesn't make lines jagged. */
const SQUARE_RAD = 1e-9;

/** What lies at the top of a plan: clockwise from north, 0 ≤ bearing < 2π. */
export function bearingOf(camera: Camera): number {
  const { up } = cameraAxes(camera);
  const bearing = Math.atan2(up.x, up.y);
  return bearing < 0 ? (bearing + TURN) % TURN : bearing;
}

/** A plan with that bearing at its top. Quarter turns come out exact. */
export function orientationAtBearing(bearingRad: number): Quaternion {
  const quarters = bearingRad / (TURN / 4);
  if (Math.abs(quarters - Math.round(quarters)) * (TURN / 4) < SQUARE_RAD) {
    const quarter = ((Math.round(quarters) % 4) + 4) % 4;
    if (quarter === 0) return identityQuaternion;
    if (quarter === 2) return { x: 0, y: 0, z: 1, w: 0 };
    return { x: 0, y: 0, z: quarter === 1 ? -Math.SQRT1_2 : Math.SQRT1_2, w: Math.SQRT1_2 };
  }
  // a view whose top is turned clockwise has its axes turned clockwise
  return aboutAxis({ x: 0, y: 0, z: 1 }, -bearingRad);
}

/** Turns what is seen counterclockwise about the middle of the pane. */
export function twistBy(camera: Camera, angleRad: number): Camera {
  if (angleRad === 0) return camera;
  return { ...camera, orientation: multiply(camera.orientation, aboutAxis({ x: 0, y: 0, z: 1 }, -angleRad)) };
}

/** Turns what is seen counterclockwise about a screen point: the world point under it stays under it. */
export function twistAbout(camera: Camera, viewport: Viewport, at: ScreenPoint, angleRad: number): Camera {
  const turned = twistBy(camera, angleRad);
  if (turned === camera) return camera;
  const before = screenOffset(camera, viewport, at);
  const after = screenOffset(turned, viewport, at);
  return { ...turned, target: along3(along3(camera.target, before, 1), after, -1) };
}

/** The plan with that bearing at its top, about the middle of the pane. */
export function twistTo(camera: Camera, bearingRad: number): Camera {
  return { ...camera, orientation: orientationAtBearing(((bearingRad % TURN) + TURN) % TURN) };
}

/** How far the paper turns, counterclockwise, when a hand moves from one place to another about the middle. */
export function handTurn(viewport: Viewport, from: Vec2, to: Vec2): number {
  const [mx, my] = [viewport.widthPx / 2, viewport.heightPx / 2];
  const angle = Math.atan2(from.y - my, from.x - mx) - Math.atan2(to.y - my, to.x - mx);
  return Math.atan2(Math.sin(angle), Math.cos(angle));
}

/**
 * Twists so that a line of the drawing lies level, by the smaller turn.
 * @returns the same camera if the line has no length
 */
export function levelLine(camera: Camera, from: Vec3, to: Vec3): Camera {
  const slope = slopeOf(camera, from, to);
  return slope === 0 ? camera : twistTo(camera, bearingOf(camera) - slope);
}

/** How far a line of the drawing is from level in a view: counterclockwise, −π/2 < … ≤ π/2; 0 if it has no length. */
export function slopeOf(camera: Camera, from: Vec3, to: Vec3): number {
  const { right, up } = cameraAxes(camera);
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const across = dx * right.x + dy * right.y;
  const upwards = dx * up.x + dy * up.y;
  if (across === 0 && upwards === 0) return 0;
  const slope = Math.atan2(upwards, across);
  if (slope > Math.PI / 2) return slope - Math.PI;
  return slope <= -Math.PI / 2 ? slope + Math.PI : slope;
}

/** A bearing as it is written: three digits and what is left, in degrees. */
export function formatBearing(bearingRad: number): string {
  const tenths = Math.round((bearingRad * 3600) / TURN) % 3600;
  const whole = String(Math.floor(tenths / 10)).padStart(3, '0');
  return tenths % 10 === 0 ? `${whole}°` : `${whole}.${tenths % 10}°`;
}
