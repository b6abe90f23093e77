import type { Viewport } from '../camera/camera.ts';
import type { Vec2 } from '../geometry/vec.ts';

/** So near to an edge the pane begins to move on, CSS px. */
export const EDGE_PX = 26;
/** At the very edge it moves so fast, px a ms. */
const FASTEST = 0.6;

/**
 * How fast the drawing moves under a cursor that has reached the pane's edge with a point pending: the nearer, the
 * faster. Px a ms, the drawing's own movement, y down; null away from the edges.
 */
export function edgePush({ x, y }: Vec2, { widthPx, heightPx }: Viewport): Vec2 | null {
  if (widthPx < 4 * EDGE_PX || heightPx < 4 * EDGE_PX) return null;
  const along = (at: number, size: number): number => {
    if (at < 0 || at > size) return 0; // the hand has left the pane
    if (at < EDGE_PX) return (FASTEST * (EDGE_PX - at)) / EDGE_PX;
    return at > size - EDGE_PX ? (-FASTEST * (at - size + EDGE_PX)) / EDGE_PX : 0;
  };
  const isOut = x < 0 || y < 0 || x > widthPx || y > heightPx;
  const push = isOut ? { x: 0, y: 0 } : { x: along(x, widthPx), y: along(y, heightPx) };
  return push.x === 0 && push.y === 0 ? null : push;
}
