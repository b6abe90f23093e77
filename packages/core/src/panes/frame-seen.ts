import { sightThrough } from '../camera/projection.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { groundHeight, type TiedView } from './tie.ts';

/** A line of sight that looks down less than this meets the ground too far away: the sine of its tilt. */
const FLATTEST = 0.05;

/**
 * What a pane frames of the ground, for a small plan: its corners on the ground, in order.
 * @returns null if a corner looks over the horizon
 */
export function frameOnGround({ camera, viewport, kind, extents }: TiedView): Vec2[] | null {
  const { widthPx, heightPx } = viewport;
  const corners: Vec2[] = [];
  for (const [x, y] of [
    [0, 0],
    [widthPx, 0],
    [widthPx, heightPx],
    [0, heightPx],
  ] as const) {
    const { from, along } = sightThrough(camera, viewport, { x, y });
    if (kind === 'flat') corners.push({ x: from.x, y: from.y });
    else {
      if (along.z > -FLATTEST) return null;
      const way = (groundHeight(extents) - from.z) / along.z;
      corners.push({ x: from.x + along.x * way, y: from.y + along.y * way });
    }
  }
  return corners;
}
