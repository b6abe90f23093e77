import type { Vec2 } from '../geometry/vec.ts';

/** A box of the pane, CSS px. */
export interface ScreenBox {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** The box of two opposite corners, in any order; CSS px, y down. */
export const screenBox = (a: Vec2, b: Vec2): ScreenBox => ({
  left: Math.min(a.x, b.x),
  right: Math.max(a.x, b.x),
  top: Math.min(a.y, b.y),
  bottom: Math.max(a.y, b.y),
});

/** How a stretch of triangles lies to a box as it is seen. */
export interface BoxMeeting {
  /** Every corner lies inside. */
  readonly isInside: boolean;
  readonly isTouching: boolean;
}

/**
 * @param seen x, y of each vertex on the screen; not a number for what lies behind the eye
 * @param from, to which indices of triangles to look at
 */
export function meetBox(
  seen: Float64Array,
  triangles: ArrayLike<number>,
  [from, to]: readonly [number, number],
  box: ScreenBox,
): BoxMeeting {
  const isIn = (vertex: number): boolean => {
    const [x, y] = [seen[2 * vertex]!, seen[2 * vertex + 1]!];
    return x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
  };
  let [isInside, isTouching] = [true, false];
  for (let i = from; i < to && (isInside || !isTouching); i++) {
    if (isIn(triangles[i]!)) isTouching = true;
    else isInside = false;
  }
  for (let i = from; i + 2 < to && !isTouching; i += 3)
    isTouching = triangleMeetsBox(seen, 2 * triangles[i]!, 2 * triangles[i + 1]!, 2 * triangles[i + 2]!, box);
  return { isInside: isInside && to > from, isTouching };
}

/** Whether a triangle and a box share a point: no side of either parts them (separating axes). */
export function triangleMeetsBox(seen: ArrayLike<number>, a: number, b: number, c: number, box: ScreenBox): boolean {
  const [ax, ay, bx, by, cx, cy] = [seen[a]!, seen[a + 1]!, seen[b]!, seen[b + 1]!, seen[c]!, seen[c + 1]!];
  // what has a corner behind the eye isn't told by its other corners
  if (Number.isNaN(ax + bx + cx)) return false;
  if (Math.max(ax, bx, cx) < box.left || Math.min(ax, bx, cx) > box.right) return false;
  if (Math.max(ay, by, cy) < box.top || Math.min(ay, by, cy) > box.bottom) return false;
  const [mx, my] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
  const [hx, hy] = [(box.right - box.left) / 2, (box.bottom - box.top) / 2];
  for (const [px, py, qx, qy, rx, ry] of [
    [ax, ay, bx, by, cx, cy],
    [bx, by, cx, cy, ax, ay],
    [cx, cy, ax, ay, bx, by],
  ] as const) {
    const [nx, ny] = [qy - py, px - qx];
    const corner = nx * (rx - px) + ny * (ry - py);
    const middle = nx * (mx - px) + ny * (my - py);
    const reach = Math.abs(nx) * hx + Math.abs(ny) * hy;
    if (middle + reach < Math.min(0, corner) || middle - reach > Math.max(0, corner)) return false;
  }
  return true;
}
