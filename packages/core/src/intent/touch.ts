import type { Vec2 } from '../geometry/vec.ts';
import { DOUBLE_PRESS_MS } from './button-gestures.ts';
import { follow, speedAtEnd, type TimedPlace } from './glide-speed.ts';
import type { Hands } from './hands.ts';
import { silent, type Intent, type Recognised } from './intents.ts';
import type { Finger, Sample, TouchSample } from './samples.ts';

/** A finger that moves less than this taps, CSS px. */
export const TAP_PX = 10;
/** Two fingers turn the paper only once they have turned so far, so that zooming doesn't. */
const TWIST_FROM_RAD = (12 * Math.PI) / 180;

export interface TouchState {
  readonly fingers: readonly Finger[];
  /** Where the first finger came down; null once more than one was there or it has moved. */
  readonly tapAt: Vec2 | null;
  readonly isDragging: boolean;
  readonly track: readonly TimedPlace[];
  /** How far two fingers have turned, rad; null once the paper turns with them. */
  readonly turned: number | null;
  readonly lastTap: TimedPlace | null;
}

export const noFingers: TouchState = {
  fingers: [],
  tapAt: null,
  isDragging: false,
  track: [],
  turned: 0,
  lastTap: null,
};

/** One finger moves the view unless a tool is in hand, two move, zoom and, when meant, twist it. */
export function stepTouch(state: TouchState, sample: Sample, hands: Hands): Recognised<TouchState> {
  if (sample.type !== 'touch') return silent(state);
  const { fingers } = sample;
  const same = fingers.length === state.fingers.length && fingers.every(({ id }, i) => id === state.fingers[i]!.id);
  if (!same) return change(state, sample, hands);
  if (fingers.length === 1) return dragOne(state, sample, hands);
  if (fingers.length === 2 && hands.actOf('fingers') === 'zoom') return dragTwo(state, sample);
  return silent({ ...state, fingers });
}

function change(state: TouchState, { fingers, timeMs }: TouchSample, hands: Hands): Recognised<TouchState> {
  if (fingers.length > state.fingers.length) {
    const tapAt = fingers.length === 1 ? { x: fingers[0]!.x, y: fingers[0]!.y } : null;
    return silent({ ...state, fingers, tapAt, track: [], turned: 0 });
  }
  if (fingers.length > 0) return silent({ ...state, fingers, track: [], turned: 0 });
  const intents: Intent[] = [];
  let lastTap: TimedPlace | null = null;
  if (state.isDragging) {
    const velocity = speedAtEnd(state.track, timeMs);
    intents.push(velocity ? { kind: 'dragEnd', velocity } : { kind: 'dragEnd' });
  } else if (state.tapAt && !hands.hasTool) {
    const { tapAt } = state;
    const before = state.lastTap;
    const isSecond =
      before !== null &&
      timeMs - before.timeMs <= DOUBLE_PRESS_MS &&
      Math.hypot(tapAt.x - before.x, tapAt.y - before.y) <= 3 * TAP_PX;
    const id = hands.actOf('double:finger');
    if (isSecond && id !== undefined) intents.push({ kind: 'act', id, at: tapAt });
    else lastTap = { ...tapAt, timeMs };
  }
  return { state: { ...noFingers, lastTap }, intents };
}

function dragOne(state: TouchState, { fingers, timeMs }: TouchSample, hands: Hands): Recognised<TouchState> {
  const [before] = state.fingers as [Finger];
  const [here] = fingers as [Finger];
  if (hands.actOf('finger') !== 'pan' || (hands.hasTool && !state.isDragging)) return silent({ ...state, fingers });
  const from = state.tapAt ?? before;
  if (state.tapAt && Math.hypot(here.x - from.x, here.y - from.y) <= TAP_PX) return silent({ ...state, fingers });
  const track = follow(state.track, { x: here.x, y: here.y, timeMs });
  const intents: Intent[] = [{ kind: 'pan', dx: here.x - from.x, dy: here.y - from.y, within: 'drag' }];
  return { state: { ...state, fingers, tapAt: null, isDragging: true, track }, intents };
}

function dragTwo(state: TouchState, { fingers }: TouchSample): Recognised<TouchState> {
  const [a0, b0] = state.fingers as [Finger, Finger];
  const [a1, b1] = fingers as [Finger, Finger];
  const [m0, m1] = [middle(a0, b0), middle(a1, b1)];
  const factor = Math.hypot(b1.x - a1.x, b1.y - a1.y) / Math.max(Math.hypot(b0.x - a0.x, b0.y - a0.y), 1e-6);
  const intents: Intent[] = [{ kind: 'pan', dx: m1.x - m0.x, dy: m1.y - m0.y, within: 'drag', about: m1 }];
  if (factor > 0 && factor !== 1) intents.push({ kind: 'zoom', at: m1, factor, within: 'drag' });
  // screen y points down: counterclockwise to the eye is negative there
  const angle = wrapped(-(Math.atan2(b1.y - a1.y, b1.x - a1.x) - Math.atan2(b0.y - a0.y, b0.x - a0.x)));
  const turned = state.turned === null ? null : state.turned + angle;
  if (turned === null) intents.push({ kind: 'twistBy', at: m1, angleRad: angle });
  const isTwisting = turned === null || Math.abs(turned) > TWIST_FROM_RAD;
  return { state: { ...state, fingers, isDragging: true, track: [], turned: isTwisting ? null : turned }, intents };
}

const middle = (a: Vec2, b: Vec2): Vec2 => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
const wrapped = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));
