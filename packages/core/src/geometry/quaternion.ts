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
