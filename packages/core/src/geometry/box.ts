import type { Vec3 } from './vec.ts';

/** An axis-aligned box in drawing units. An empty box has min > max and is told by {@link isEmptyBox}. */
export interface Box3 {
  readonly min: Vec3;
  readonly max: Vec3;
}

export const emptyBox: Box3 = {
  min: { x: Infinity, y: Infinity, z: Infinity },
  max: { x: -Infinity, y: -Infinity, z: -Infinity },
};

/** Whether a box holds no point; z isn’t looked at. */
export const isEmptyBox = (box: Box3): boolean => !(box.min.x <= box.max.x && box.min.y <= box.max.y);

/** Length of the box's diagonal in drawing units, 0 when empty. */
export function boxDiagonal(box: Box3): number {
  if (isEmptyBox(box)) return 0;
  return Math.hypot(box.max.x - box.min.x, box.max.y - box.min.y, box.max.z - box.min.z);
}

/** The largest absolute coordinate of the box: what decides how fine doubles are there. */
export function largestCoordinate(box: Box3): number {
  if (isEmptyBox(box)) return 0;
  return Math.max(
    ...[box.min.x, box.min.y, box.min.z, box.max.x, box.max.y, box.max.z].map((value) => Math.abs(value)),
  );
}

/** The middle of the box about several boxes. @param boxes six numbers each: least coordinates, then largest */
export function middleOfBoxes(boxes: ArrayLike<number>, chosen: Iterable<number>): Vec3 {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const box of chosen)
    for (let axis = 0; axis < 3; axis++) {
      low[axis] = Math.min(low[axis]!, boxes[6 * box + axis]!);
      high[axis] = Math.max(high[axis]!, boxes[6 * box + axis + 3]!);
    }
  const [x, y, z] = low.map((value, axis) => (value + high[axis]!) / 2) as [number, number, number];
  return { x, y, z };
}
