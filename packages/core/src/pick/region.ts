import { cameraAxes, screenToWorld, type Camera, type Viewport } from '../camera/camera.ts';
import { transformPath } from '../drawing/path.ts';
import { shifted } from '../pyramid/detail.ts';
import type { Box2 } from '../geometry/clip.ts';
import type { Vec2 } from '../geometry/vec.ts';
import type { ObjectShape } from './object-chunk.ts';

/** An upright rectangle of the screen as it lies in a plan: twisted with the view. Drawing units. */
export interface Region {
  readonly middle: Vec2;
  /** Unit vector to the right of the screen. */
  readonly right: Vec2;
  readonly halfWidth: number;
  readonly halfHeight: number;
}

/** The region between two places of a pane, CSS px. */
export function regionBetween(camera: Camera, viewport: Viewport, a: Vec2, b: Vec2): Region {
  const { right } = cameraAxes(camera);
  const { x, y } = screenToWorld(camera, viewport, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  return {
    middle: { x, y },
    // a view that isn't twisted has exact axes
    right: Math.abs(right.y) < 1e-12 && right.x > 0 ? { x: 1, y: 0 } : { x: right.x, y: right.y },
    halfWidth: (Math.abs(b.x - a.x) / 2) * camera.unitsPerPx,
    halfHeight: (Math.abs(b.y - a.y) / 2) * camera.unitsPerPx,
  };
}

/** What a pane shows. */
export const regionOfPane = (camera: Camera, viewport: Viewport): Region =>
  regionBetween(camera, viewport, { x: 0, y: 0 }, { x: viewport.widthPx, y: viewport.heightPx });

/** The upright box round a region, widened. */
export function boxAround({ middle, right, halfWidth, halfHeight }: Region, wider = 0): Box2 {
  const reachX = Math.abs(right.x) * halfWidth + Math.abs(right.y) * halfHeight + wider;
  const reachY = Math.abs(right.y) * halfWidth + Math.abs(right.x) * halfHeight + wider;
  return { minX: middle.x - reachX, minY: middle.y - reachY, maxX: middle.x + reachX, maxY: middle.y + reachY };
}

/** The region in its own axes, its middle at the origin. */
export const ownBox = ({ halfWidth, halfHeight }: Region, wider = 0): Box2 => ({
  minX: -halfWidth - wider,
  minY: -halfHeight - wider,
  maxX: halfWidth + wider,
  maxY: halfHeight + wider,
});

/** How an upright box lies to a region; what can't be told from the box alone is `across`. */
export function sideOf(region: Region, minX: number, minY: number, maxX: number, maxY: number): 'inside' | 'across' {
  const { middle, right, halfWidth, halfHeight } = region;
  const [x, y] = [(minX + maxX) / 2 - middle.x, (minY + maxY) / 2 - middle.y];
  const [reachX, reachY] = [(maxX - minX) / 2, (maxY - minY) / 2];
  const across = Math.abs(x * right.x + y * right.y) + Math.abs(right.x) * reachX + Math.abs(right.y) * reachY;
  const upwards = Math.abs(y * right.x - x * right.y) + Math.abs(right.y) * reachX + Math.abs(right.x) * reachY;
  return across <= halfWidth && upwards <= halfHeight ? 'inside' : 'across';
}

/** A shape in the region's own axes. The difference to its middle is formed first, so that large coordinates stay exact. */
export function toOwnAxes({ middle, right }: Region, { painted, path }: ObjectShape): ObjectShape {
  const near = shifted(path, middle);
  if (right.x === 1 && right.y === 0) return { painted, path: near };
  return { painted, path: transformPath(near, { a: right.x, b: -right.y, c: right.y, d: right.x, e: 0, f: 0 }) };
}
