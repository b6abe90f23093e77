import type { Camera } from '../camera/camera.ts';
import { orientationOf, type Direction } from '../camera/orbit.ts';
import type { Tiling } from './tiling.ts';

/** The orthographic views, named by the side that they are seen from. */
export type OrthographicView = 'front' | 'left' | 'top';

const directions: Readonly<Record<OrthographicView, Direction>> = {
  front: { bearingRad: 0, tiltRad: 0 },
  left: { bearingRad: Math.PI / 2, tiltRad: 0 },
  top: { bearingRad: 0, tiltRad: Math.PI / 2 },
};

/**
 * The layout of first-angle projection (ISO 5456-2, 5.2): the view from the left is to the right of the front view, the
 * view from above is below it, so that each feature lines up with itself in the neighbouring view. The fourth pane is free
 * for any view.
 * @param panes the names of the panes
 */
export const firstAngleTiling = (panes: Readonly<Record<OrthographicView | 'free', string>>): Tiling => ({
  along: 'column',
  parts: [
    { along: 'row', parts: [{ pane: panes.front }, { pane: panes.left }], shares: [0.5, 0.5] },
    { along: 'row', parts: [{ pane: panes.top }, { pane: panes.free }], shares: [0.5, 0.5] },
  ],
  shares: [0.5, 0.5],
});

/**
 * The cameras of the three views: parallel, at the largest common scale at which all of them fit, about one target.
 * @param fitted fits everything into a pane, keeping the camera's direction
 */
export function firstAngleCameras(
  like: Camera,
  fitted: (camera: Camera) => Camera,
): Readonly<Record<OrthographicView, Camera>> {
  const facing = (view: OrthographicView): Camera =>
    fitted({ ...like, projection: 'parallel', orientation: orientationOf(directions[view]) });
  const [front, left, top] = [facing('front'), facing('left'), facing('top')];
  // a fit determines the target only across its own line of sight
  const target = { x: front.target.x, y: top.target.y, z: front.target.z };
  const unitsPerPx = Math.max(front.unitsPerPx, left.unitsPerPx, top.unitsPerPx);
  const shared = { target, unitsPerPx };
  return { front: { ...front, ...shared }, left: { ...left, ...shared }, top: { ...top, ...shared } };
}
