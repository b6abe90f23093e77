import type { Camera } from '../camera/camera.ts';
import { panBy } from '../camera/pan.ts';
import type { Vec2 } from '../geometry/vec.ts';
import type { Motion } from './motion.ts';

/** The cursor rests at the edge so long before the view moves on, ms. */
const PUSH_DELAY_MS = 150;

/**
 * A pan that goes on while the cursor is at the pane's edge.
 * @param speed CSS px a ms; null once the cursor has left the edge
 * @param focused the view that means what lies under the cursor, where perspective makes that matter
 */
export function pushMotion(speed: () => Vec2 | null, focused: (camera: Camera) => Camera): Motion {
  let hasMoved = false;
  return {
    at(now, elapsedMs, frameMs) {
      const px = speed();
      if (!px) return null;
      if (elapsedMs < PUSH_DELAY_MS) return { camera: now };
      const from = hasMoved ? now : focused(now);
      hasMoved = true;
      return { camera: panBy(from, px.x * frameMs, px.y * frameMs) };
    },
    leaves: 'drag',
  };
}
