import type { Vec2, Vec3 } from '../geometry/vec.ts';
import type { Camera } from './camera.ts';
import { orbitAxis, orbitLevel, orbitOpen, type OrbitAxis } from './orbit.ts';

/** What a drag turns a model about: with a level horizon, freely, or about one axis. */
export type OrbitMode = 'level' | 'open' | OrbitAxis;
export const orbitModes: readonly OrbitMode[] = ['level', 'open', 'across', 'upright', 'sight', 'x', 'y', 'z'];

/** A drag of so many px turns a model half round. */
export const PX_PER_HALF_TURN = 500;

/** The view after a hand has moved by a way, CSS px, y down; what lies at the pivot stays where it is seen. */
export function orbitByHand(camera: Camera, pivot: Vec3, mode: OrbitMode, way: Vec2): Camera {
  const perPx = Math.PI / PX_PER_HALF_TURN;
  const [right, down] = [way.x * perPx, way.y * perPx];
  switch (mode) {
    case 'level':
      return orbitLevel(camera, pivot, right, down);
    case 'open':
      return orbitOpen(camera, pivot, right, down);
    case 'across':
      return orbitAxis(camera, pivot, mode, down);
    default:
      return orbitAxis(camera, pivot, mode, right);
  }
}
