import type { Vec2 } from '../geometry/vec.ts';

/** A place at a time, ms. */
export interface TimedPlace extends Vec2 {
  readonly timeMs: number;
}

/** Only the last so many ms of a drag tell its speed at the end. */
const WINDOW_MS = 80;
/** A hand that rested so long before it let go has put the view down. */
const REST_MS = 50;
/** Slower than this, px a ms, nothing goes on by itself. */
const LEAST_SPEED = 0.25;

/** Keeps of a drag's places what its speed at the end needs. */
export function follow(track: readonly TimedPlace[], place: TimedPlace): readonly TimedPlace[] {
  return [...track.filter(({ timeMs }) => place.timeMs - timeMs <= WINDOW_MS), place];
}

/** The speed with which a drag was let go, px a ms; undefined if it had come to rest. */
export function speedAtEnd(track: readonly TimedPlace[], releasedMs: number): Vec2 | undefined {
  const [first] = track;
  const last = track.at(-1);
  if (!first || !last || releasedMs - last.timeMs > REST_MS || last.timeMs <= first.timeMs) return undefined;
  const forMs = last.timeMs - first.timeMs;
  const velocity = { x: (last.x - first.x) / forMs, y: (last.y - first.y) / forMs };
  return Math.hypot(velocity.x, velocity.y) >= LEAST_SPEED ? velocity : undefined;
}
