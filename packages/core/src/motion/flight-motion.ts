import { easeInOut, type Flight } from '../camera/flight.ts';
import type { Motion } from './motion.ts';

/**
 * A travel along a flight, or a glide, to where it ends.
 * @param isEased whether it begins and ends gently; a glide has its own pace
 */
export const flightMotion = (path: Flight, isEased: boolean): Motion => ({
  at(_, elapsedMs) {
    if (elapsedMs >= path.durationMs) return { camera: path.at(1), isLast: true };
    const share = Math.max(elapsedMs, 0) / path.durationMs;
    return { camera: path.at(isEased ? easeInOut(share) : share) };
  },
  leaves: null,
});
