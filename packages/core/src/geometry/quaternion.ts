import type { Vec3 } from './vec.ts';

/** A unit quaternion; turns camera axes (x right, y up, z towards the viewer) into world axes. */
export interface Quaternion {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly w: number;
}

/** Looking straight down with north at the top: camera axes are the world's axes. */
export const identityQuaternion: Quaternion = { x: 0, y: 0, z: 0, w: 1 };

/** Turns a vector by a unit quaternion; with the identity the vector comes back bit for bit. */
export function rotate(q: Quaternion, v: Vec3): Vec3 {
  const tx = 2 * (q.y * v.z - q.z * v.y);
  const ty = 2 * (q.z * v.x - q.x * v.z);
  const tz = 2 * (q.x * v.y - q.y * v.x);
  return {
    x: v.x + q.w * tx + (q.y * tz - q.z * ty),
    y: v.y + q.w * ty + (q.z * tx - q.x * tz),
    z: v.z + q.w * tz + (q.x * ty - q.y * tx),
  };
}

/** The unit quaternion of a turn by `angleRad` about the unit vector `axis`, anticlockwise seen from its tip. */
export function aboutAxis(axis: Vec3, angleRad: number): Quaternion {
  const s = Math.sin(angleRad / 2);
  return { x: axis.x * s, y: axis.y * s, z: axis.z * s, w: Math.cos(angleRad / 2) };
}

/** First `b`, then `a`. */
export function multiply(a: Quaternion, b: Quaternion): Quaternion {
  return {
    x: a.w * b.x + a.x * b.w + a.y * b.z - a.z * b.y,
    y: a.w * b.y - a.x * b.z + a.y * b.w + a.z * b.x,
    z: a.w * b.z + a.x * b.y - a.y * b.x + a.z * b.w,
    w: a.w * b.w - a.x * b.x - a.y * b.y - a.z * b.z,
  };
}

/**
 * The unit quaternion that turns x, y, z into three unit vectors at right angles.
 * Source: S. W. Shepperd, "Quaternion from rotation matrix", J. Guidance and Control 1(3), 1978.
 */
export function quaternionOfAxes(x: Vec3, y: Vec3, z: Vec3): Quaternion {
  const trace = x.x + y.y + z.z;
  const largest = Math.max(trace, x.x, y.y, z.z);
  const q =
    largest === trace
      ? { w: 1 + trace, x: y.z - z.y, y: z.x - x.z, z: x.y - y.x }
      : largest === x.x
        ? { w: y.z - z.y, x: 1 + x.x - y.y - z.z, y: x.y + y.x, z: z.x + x.z }
        : largest === y.y
          ? { w: z.x - x.z, x: x.y + y.x, y: 1 + y.y - x.x - z.z, z: y.z + z.y }
          : { w: x.y - y.x, x: z.x + x.z, y: y.z + z.y, z: 1 + z.z - x.x - y.y };
  const length = Math.hypot(q.x, q.y, q.z, q.w);
  return { x: q.x / length, y: q.y / length, z: q.z / length, w: q.w / length };
}
