import { identityQuaternion, rotate, type Quaternion } from '../geometry/quaternion.ts';
import { add3, along3, dot3, scale3, sub3, type Vec2, type Vec3 } from '../geometry/vec.ts';

/**
 * Where a pane looks, as plain data. World: drawing units, X east, Y north, Z up. Screen: CSS px, y down, origin at the
 * pane's upper left corner. The scale is kept per pixel, so that resizing a pane changes what fits in, not the scale.
 */
export interface Camera {
  readonly projection: 'parallel' | 'perspective';
  /** Vertical field of view, radians; of perspective cameras. */
  readonly fovRad?: number;
  /** The world point in the middle of the pane. */
  readonly target: Vec3;
  /** Turns camera axes (x right, y up, z towards the viewer) into world axes. */
  readonly orientation: Quaternion;
  /** Drawing units per CSS px in the plane through the target. */
  readonly unitsPerPx: number;
}

/** Field of view of a perspective camera that doesn't tell: 45°. */
export const USUAL_FOV_RAD = Math.PI / 4;

/** The drawing surface of a pane, CSS px. */
export interface Viewport {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** A place on the screen within a pane, CSS px, y down. */
export type ScreenPoint = Vec2;

export interface CameraAxes {
  readonly right: Vec3;
  readonly up: Vec3;
  /** Towards the viewer. */
  readonly back: Vec3;
}

/** A camera that looks straight down with north at the top. */
export function planCamera(target: Vec3, unitsPerPx: number): Camera {
  if (!(unitsPerPx > 0 && Number.isFinite(unitsPerPx))) {
    throw new RangeError(`planCamera: unitsPerPx must be finite and > 0, got ${String(unitsPerPx)}`);
  }
  return { projection: 'parallel', target, orientation: identityQuaternion, unitsPerPx };
}

/** Unit vectors of the screen in world coordinates: to the right, upwards, and back towards the viewer. */
export function cameraAxes(camera: Camera): CameraAxes {
  return {
    right: rotate(camera.orientation, { x: 1, y: 0, z: 0 }),
    up: rotate(camera.orientation, { x: 0, y: 1, z: 0 }),
    back: rotate(camera.orientation, { x: 0, y: 0, z: 1 }),
  };
}

/** The world vector from the target to a screen point, in the plane through the target. */
export function screenOffset(camera: Camera, viewport: Viewport, at: ScreenPoint): Vec3 {
  const { right, up } = cameraAxes(camera);
  const dx = (at.x - viewport.widthPx / 2) * camera.unitsPerPx;
  const dy = (viewport.heightPx / 2 - at.y) * camera.unitsPerPx;
  return add3(scale3(right, dx), scale3(up, dy));
}

/** The world point under a screen point, in the plane through the target. */
export function screenToWorld(camera: Camera, viewport: Viewport, at: ScreenPoint): Vec3 {
  return add3(camera.target, screenOffset(camera, viewport, at));
}

/**
 * Where a world point is seen. The difference to the target is formed first, so that large coordinates stay exact.
 * @returns no numbers for what lies at or behind the eye of a perspective camera
 */
export function worldToScreen(camera: Camera, viewport: Viewport, world: Vec3): ScreenPoint {
  const { right, up, back } = cameraAxes(camera);
  const offset = sub3(world, camera.target);
  let { unitsPerPx } = camera;
  if (camera.projection === 'perspective') {
    const distance = eyeDistance(camera, viewport);
    const depth = distance - dot3(offset, back);
    unitsPerPx = depth > 0 ? (unitsPerPx * depth) / distance : NaN;
  }
  return {
    x: viewport.widthPx / 2 + dot3(offset, right) / unitsPerPx,
    y: viewport.heightPx / 2 - dot3(offset, up) / unitsPerPx,
  };
}

/** Drawing units that span the pane from left to right. */
export const widthWorld = (camera: Camera, viewport: Viewport): number => camera.unitsPerPx * viewport.widthPx;

/** From the target to the eye. In a parallel view any distance does, so the width of the view is taken. */
export function eyeDistance(camera: Camera, viewport: Viewport): number {
  if (camera.projection === 'parallel') return widthWorld(camera, viewport);
  return (camera.unitsPerPx * viewport.heightPx) / 2 / Math.tan((camera.fovRad ?? USUAL_FOV_RAD) / 2);
}

/** A point to look from. */
export function eyeOf(camera: Camera, viewport: Viewport): Vec3 {
  return along3(camera.target, cameraAxes(camera).back, eyeDistance(camera, viewport));
}

/** Whether two cameras show the same, to the last bit. */
export function sameCamera(a: Camera, b: Camera): boolean {
  return (
    a === b ||
    (a.unitsPerPx === b.unitsPerPx &&
      a.projection === b.projection &&
      a.fovRad === b.fovRad &&
      a.target.x === b.target.x &&
      a.target.y === b.target.y &&
      a.target.z === b.target.z &&
      a.orientation.x === b.orientation.x &&
      a.orientation.y === b.orientation.y &&
      a.orientation.z === b.orientation.z &&
      a.orientation.w === b.orientation.w)
  );
}

/** Whether two cameras show the same, but for the last digits of their direction. */
export function sameView(a: Camera, b: Camera): boolean {
  const dot =
    a.orientation.x * b.orientation.x +
    a.orientation.y * b.orientation.y +
    a.orientation.z * b.orientation.z +
    a.orientation.w * b.orientation.w;
  return sameCamera(a, { ...b, orientation: a.orientation }) && Math.abs(dot) > 1 - 1e-14;
}
