import { easingCurve, type Easing } from './easing.ts';

/** The way to a stop and the stay there, in time. */
export interface Timed {
  /** Of the way to this stop, ms; 0 is a cut. */
  readonly travelMs: number;
  readonly stayMs: number;
  readonly easing: Easing;
}

/** A leg in time: from one stop to the next. */
export interface PacedLeg {
  /** Stops by their numbers. */
  readonly from: number;
  readonly to: number;
  readonly startMs: number;
  readonly endMs: number;
  /** The share of the way, 0 … 1, and the speed in lengths a ms, at a time of the tour. */
  shareAt(timeMs: number): number;
  speedAt(timeMs: number): number;
}

export interface Pace {
  readonly durationMs: number;
  readonly legs: readonly PacedLeg[];
  /** When each stop is reached and left; the first is reached at 0. */
  readonly stays: readonly { readonly arriveMs: number; readonly leaveMs: number }[];
}

/**
 * Puts ways in time so that the speed has no jump anywhere. A way between stops where one stays begins and ends at rest
 * by its easing. A stop without a stay is flown through at the weighted harmonic mean of the speeds before and after it,
 * which keeps the cubic between them from ever going backwards: F. N. Fritsch and J. Butland, "A method for constructing
 * local monotone piecewise cubic interpolants", SIAM J. Sci. Stat. Comput. 5(2), 1984.
 * @param lengths of the way to each stop; that to the first counts where the tour loops
 */
export function paceOf(stops: readonly Timed[], lengths: readonly number[], loops: boolean): Pace {
  if (stops.length === 0) return { durationMs: 0, legs: [], stays: [] };
  const isLooping = loops && stops.length > 1;
  const stays: { arriveMs: number; leaveMs: number }[] = [];
  let timeMs = 0;
  for (const [k, { travelMs, stayMs }] of stops.entries()) {
    const arriveMs = timeMs + (k === 0 ? 0 : travelMs);
    timeMs = arriveMs + stayMs;
    stays.push({ arriveMs, leaveMs: timeMs });
  }
  const durationMs = isLooping ? timeMs + stops[0]!.travelMs : timeMs;
  const targets = stops.map((_, k) => k).filter((k) => k > 0);
  if (isLooping) targets.push(0);
  const before = (to: number): number => (to === 0 ? stops.length - 1 : to - 1);
  const meanSpeed = (to: number): number => (stops[to]!.travelMs > 0 ? lengths[to]! / stops[to]!.travelMs : 0);
  /** Lengths a ms at which a stop is passed. */
  const passing = (stop: number): number => {
    const next = stop + 1 < stops.length ? stop + 1 : 0;
    const isEnd = !isLooping && (stop === 0 || stop === stops.length - 1);
    if (isEnd || stops[stop]!.stayMs > 0) return 0;
    const [a, b] = [meanSpeed(stop), meanSpeed(next)];
    if (a <= 0 || b <= 0) return 0;
    const [h, k] = [stops[stop]!.travelMs, stops[next]!.travelMs];
    return (3 * (h + k)) / ((2 * k + h) / a + (k + 2 * h) / b);
  };
  const legs = targets.map((to): PacedLeg => {
    const from = before(to);
    const startMs = stays[from]!.leaveMs;
    const forMs = stops[to]!.travelMs;
    const curve = curveOf(stops[to]!.easing, lengths[to]!, forMs, passing(from), passing(to));
    const shareOfTime = (ms: number): number => (forMs > 0 ? Math.min(Math.max((ms - startMs) / forMs, 0), 1) : 1);
    return {
      from,
      to,
      startMs,
      endMs: startMs + forMs,
      shareAt: (ms) => curve.at(shareOfTime(ms)),
      speedAt: (ms) => (forMs > 0 ? (curve.slope(shareOfTime(ms)) * lengths[to]!) / forMs : 0),
    };
  });
  return { durationMs, legs, stays };
}

/** @param v0 and v1 the speeds at the ends, lengths a ms */
function curveOf(easing: Easing, length: number, forMs: number, v0: number, v1: number) {
  if ((v0 === 0 && v1 === 0) || length <= 0) return easingCurve(easing);
  const [m0, m1] = [(v0 * forMs) / length, (v1 * forMs) / length];
  // Hermite's cubic from 0 to 1
  const [c3, c2] = [m0 + m1 - 2, 3 - 2 * m0 - m1];
  return {
    at: (t: number) => t * (m0 + t * (c2 + t * c3)),
    slope: (t: number) => m0 + t * (2 * c2 + 3 * t * c3),
  };
}
