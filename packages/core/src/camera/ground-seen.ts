import { dot3, type Vec2 } from '../geometry/vec.ts';
import { cameraAxes, type Camera, type Viewport } from './camera.ts';
import { sightThrough } from './projection.ts';

/** A part of the ground, drawing units. */
export interface GroundPart {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** A view that looks flatter than this along the ground sees all of it that there is. */
const FLATTEST = 1e-3;

/**
 * The part of the ground, height 0, that a view may see.
 * @param whole the extent of the plan
 * @returns a rectangle that holds every place of `whole` in the view; null if none is
 */
export function groundSeen(camera: Camera, viewport: Viewport, whole: GroundPart): GroundPart | null {
  const { widthPx, heightPx } = viewport;
  const { back } = cameraAxes(camera);
  const corners: Vec2[] = [];
  for (const at of [
    { x: 0, y: 0 },
    { x: widthPx, y: 0 },
    { x: widthPx, y: heightPx },
    { x: 0, y: heightPx },
  ]) {
    const { from, along } = sightThrough(camera, viewport, at);
    if (Math.abs(along.z) < FLATTEST) return whole;
    const way = -from.z / along.z;
    // a corner that looks over the horizon: the ground goes on to its end
    if (camera.projection === 'perspective' && !(way > 0 && dot3(along, back) < 0)) return whole;
    corners.push({ x: from.x + along.x * way, y: from.y + along.y * way });
  }
  const [xs, ys] = [corners.map(({ x }) => x), corners.map(({ y }) => y)];
  const part = {
    minX: Math.max(Math.min(...xs), whole.minX),
    minY: Math.max(Math.min(...ys), whole.minY),
    maxX: Math.min(Math.max(...xs), whole.maxX),
    maxY: Math.min(Math.max(...ys), whole.maxY),
  };
  return part.minX < part.maxX && part.minY < part.maxY ? part : null;
}
