import { orbitByHand, type OrbitMode } from '../camera/orbit-drag.ts';
import type { Vec2, Vec3 } from '../geometry/vec.ts';
import type { Motion } from './motion.ts';

/**
 * A turn that goes on with the speed that the hand had.
 * @param velocity CSS px a ms
 */
export const driftMotion = (velocity: Vec2, pivot: Vec3, mode: OrbitMode): Motion => ({
  at: (now, _, frameMs) => ({
    camera: orbitByHand(now, pivot, mode, { x: velocity.x * frameMs, y: velocity.y * frameMs }),
    pivot,
  }),
  leaves: 'drag',
});
