import type { Camera, Viewport } from '../camera/camera.ts';
import { flightBetween, raisedFlight, type Way } from '../camera/flight.ts';
import { orbitAxis } from '../camera/orbit.ts';
import { RAMP, easingCurve } from './easing.ts';
import { paceOf, type PacedLeg, type Timed } from './pace.ts';

/** When, on the way to a stop, things begin to look as they do there. */
export const lookMoments = ['leaving', 'midway', 'arriving'] as const;
export type LookMoment = (typeof lookMoments)[number];

export interface TourStop extends Timed {
  readonly camera: Camera;
  /** While one stays, the view goes on turning about the upright axis through its target, rad/s, east over north. */
  readonly driftRadPerS: number;
  readonly looksChange: LookMoment;
}

/** What a tour shows at a moment. */
export interface TourMoment {
  readonly camera: Camera;
  /** The stop that one is at, or whose looks are shown on the way. */
  readonly looksOf: number;
  /** The stop that is nearer in the way: its caption is shown. */
  readonly nearest: number;
  /** The stop that is travelled to; null while one stays. */
  readonly towards: number | null;
}

export interface Timeline {
  readonly durationMs: number;
  readonly loops: boolean;
  /** When each stop is reached and left. */
  readonly stays: readonly { readonly arriveMs: number; readonly leaveMs: number }[];
  readonly legs: readonly PacedLeg[];
  /** How long the way to each stop is, in the measure of `Way.length`. */
  readonly lengths: readonly number[];
  /** @param timeMs held to the tour's time; that of one that loops goes round */
  at(timeMs: number): TourMoment;
  /** Lengths or radians a second. */
  speedAt(timeMs: number): number;
}

/** How far a drift turns in a stay, rad: it gets going and comes to rest as an even way does. */
const driftAngle = ({ driftRadPerS, stayMs }: TourStop): number => (driftRadPerS * (1 - RAMP) * stayMs) / 1000;

const drifted = (stop: TourStop, share: number): Camera =>
  stop.driftRadPerS === 0 || stop.stayMs === 0
    ? stop.camera
    : orbitAxis(stop.camera, stop.camera.target, 'z', driftAngle(stop) * easingCurve('even').at(share));

/** The ways to each stop; that to the first comes from the last. */
export function waysOf(stops: readonly TourStop[], viewport: Viewport, raised: readonly number[] = []): readonly Way[] {
  return stops.map((stop, k) => {
    const before = stops[k === 0 ? stops.length - 1 : k - 1]!;
    const from = drifted(before, 1);
    const factor = raised[k] ?? 0;
    return factor > 0 ? raisedFlight(from, stop.camera, viewport, factor) : flightBetween(from, stop.camera, viewport);
  });
}

/**
 * Puts a tour in time.
 * @param stops at least one, their cameras for a pane of this size
 * @param raised for each stop, how much higher than need be the way there rises; 0 for the best way
 * @throws RangeError without stops
 */
export function timelineOf(
  stops: readonly TourStop[],
  viewport: Viewport,
  { loops = false, raised = [] }: { readonly loops?: boolean; readonly raised?: readonly number[] } = {},
): Timeline {
  if (stops.length === 0) throw new RangeError('timelineOf: a tour needs a stop');
  const ways = waysOf(stops, viewport, raised);
  const lengths = ways.map(({ length }) => length);
  const { durationMs, legs, stays } = paceOf(stops, lengths, loops);
  const held = (timeMs: number): number => {
    if (durationMs === 0) return 0;
    if (loops && stops.length > 1) return ((timeMs % durationMs) + durationMs) % durationMs;
    return Math.min(Math.max(timeMs, 0), durationMs);
  };
  const legAt = (timeMs: number): PacedLeg | undefined =>
    legs.find(({ startMs, endMs }) => timeMs > startMs && timeMs < endMs);
  const stopAt = (timeMs: number): number => {
    const found = stays.findLastIndex(({ arriveMs }) => arriveMs <= timeMs);
    return Math.max(found, 0);
  };
  const shareOfStay = (stop: number, timeMs: number): number => {
    const { arriveMs, leaveMs } = stays[stop]!;
    return leaveMs > arriveMs ? Math.min((timeMs - arriveMs) / (leaveMs - arriveMs), 1) : 1;
  };
  return {
    durationMs,
    stays,
    legs,
    lengths,
    loops: loops && stops.length > 1,
    at(time) {
      const timeMs = held(time);
      const leg = legAt(timeMs);
      if (!leg) {
        const stop = stopAt(timeMs);
        return {
          camera: drifted(stops[stop]!, shareOfStay(stop, timeMs)),
          looksOf: stop,
          nearest: stop,
          towards: null,
        };
      }
      const { from, to } = leg;
      const share = leg.shareAt(timeMs);
      const { looksChange } = stops[to]!;
      const hasChanged = looksChange === 'leaving' || (looksChange === 'midway' && share >= 0.5);
      return {
        camera: ways[to]!.at(share),
        looksOf: hasChanged ? to : from,
        nearest: share < 0.5 ? from : to,
        towards: to,
      };
    },
    speedAt(time) {
      const timeMs = held(time);
      const leg = legAt(timeMs);
      if (leg) return leg.speedAt(timeMs) * 1000;
      const stop = stopAt(timeMs);
      const own = stops[stop]!;
      if (own.stayMs === 0) return (legs.find(({ to }) => to === stop)?.speedAt(timeMs) ?? 0) * 1000;
      return (Math.abs(driftAngle(own)) * easingCurve('even').slope(shareOfStay(stop, timeMs)) * 1000) / own.stayMs;
    },
  };
}
