import type { Timed } from './pace.ts';

/** No way is quicker than this but a cut, ms. */
export const LEAST_TRAVEL_MS = 200;
/** Times are set in steps of this, ms. */
export const TIME_STEP_MS = 100;
/** The longest way or stay, ms. */
export const MOST_TIME_MS = 600_000;

const stepped = (ms: number): number =>
  Math.min(Math.max(Math.round(ms / TIME_STEP_MS) * TIME_STEP_MS, 0), MOST_TIME_MS);

/** Default duration of a path of a given length, ms: about a second and a half a screenful. */
export const usualTravelMs = (length: number): number => stepped(Math.min(1000 + 900 * length, 12_000));

/**
 * Drags one edge of a stay along the time axis. Everything later moves with it, so that no other time changes.
 * @param edge `arrive` changes the way there, `leave` the stay
 * @param byMs later where positive
 */
export function dragEdge<T extends Timed>(
  stops: readonly T[],
  stop: number,
  edge: 'arrive' | 'leave',
  byMs: number,
): readonly T[] {
  return stops.map((own, k) => {
    if (k !== stop) return own;
    return edge === 'arrive'
      ? { ...own, travelMs: Math.max(stepped(own.travelMs + byMs), LEAST_TRAVEL_MS) }
      : { ...own, stayMs: stepped(own.stayMs + byMs) };
  });
}

/**
 * Shares the time of all ways out so that their mean speed is the same: bumps go, the tour stays as long as it was,
 * but for the steps of time.
 * @param lengths of the way to each stop; the first's counts where the tour loops
 */
export function evenSpeeds<T extends Timed>(
  stops: readonly T[],
  lengths: readonly number[],
  loops: boolean,
): readonly T[] {
  const counts = (k: number): boolean => (k > 0 || loops) && lengths[k]! > 0 && stops[k]!.travelMs > 0;
  const legs = stops.map((_, k) => k).filter(counts);
  const totalMs = legs.reduce((sum, k) => sum + stops[k]!.travelMs, 0);
  const length = legs.reduce((sum, k) => sum + lengths[k]!, 0);
  return stops.map((own, k) =>
    counts(k) ? { ...own, travelMs: Math.max(stepped((totalMs * lengths[k]!) / length), LEAST_TRAVEL_MS) } : own,
  );
}
