import type { Vec3 } from '../geometry/vec.ts';

/** A point that was placed, with what it was placed on. */
export interface Placed extends Vec3 {
  /** Unit normal of the face. */
  readonly normal?: Vec3;
  /** The circle. */
  readonly round?: { readonly centre: Vec3; readonly radius: number };
}
