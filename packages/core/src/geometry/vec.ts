/** Double-precision points and vectors as plain data. World: drawing units, X east, Y north, Z up. */

export interface Vec2 {
  readonly x: number;
  readonly y: number;
}

export interface Vec3 extends Vec2 {
  readonly z: number;
}

/** a + b. */
export const add3 = (a: Vec3, b: Vec3): Vec3 => ({ x: a.x + b.x, y: a.y + b.y, z: a.z + b.z });
/** a − b. */
export const sub3 = (a: Vec3, b: Vec3): Vec3 => ({ x: a.x - b.x, y: a.y - b.y, z: a.z - b.z });
/** a·k. */
export const scale3 = (a: Vec3, k: number): Vec3 => ({ x: a.x * k, y: a.y * k, z: a.z * k });
/** Dot product. */
export const dot3 = (a: Vec3, b: Vec3): number => a.x * b.x + a.y * b.y + a.z * b.z;

/** `a + b·k`, the step of every parametric line. */
export const along3 = (a: Vec3, b: Vec3, k: number): Vec3 => ({ x: a.x + b.x * k, y: a.y + b.y * k, z: a.z + b.z * k });

/** Cross product, right-handed. */
export const cross3 = (a: Vec3, b: Vec3): Vec3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
/** Euclidean length. */
export const length3 = ({ x, y, z }: Vec3): number => Math.hypot(x, y, z);
/** The same direction, of length 1. */
export const unit3 = (a: Vec3): Vec3 => scale3(a, 1 / length3(a));
