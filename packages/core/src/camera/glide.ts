import type { Vec2 } from '../geometry/vec.ts';
import type { Camera } from './camera.ts';
import type { Flight } from './flight.ts';
import { panBy } from './pan.ts';

/** Time in which a gliding view loses all but 1/e of its speed, ms. */
const FADE_MS = 140;
/** So slow, px a ms, that it stands. */
const STANDS = 0.02;
/** A view glides no farther than this, px: a fling doesn't throw it away. */
const FARTHEST_PX = 1600;

/**
 * What a pan does after the hand has let go: it fades out exponentially, so that its first speed is the hand's.
 * @param velocity px a ms, y down
 */
export function glideFrom(camera: Camera, velocity: Vec2): Flight {
  const speed = Math.hypot(velocity.x, velocity.y);
  if (speed <= STANDS) return { durationMs: 0, at: () => camera };
  const slowed = Math.min(speed, FARTHEST_PX / FADE_MS) / speed;
  const durationMs = FADE_MS * Math.log((speed * slowed) / STANDS);
  const wayAt = (share: number): Camera => {
    const way = FADE_MS * slowed * (1 - Math.exp((-share * durationMs) / FADE_MS));
    return panBy(camera, velocity.x * way, velocity.y * way);
  };
  const end = wayAt(1);
  return { durationMs, at: (share) => (share <= 0 ? camera : share >= 1 ? end : wayAt(share)) };
}
