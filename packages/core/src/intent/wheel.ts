import type { Hands } from './hands.ts';
import { silent, type Recognised } from './intents.ts';
import type { Sample, WheelSample } from './samples.ts';

export interface WheelState {
  /** A pressed wheel is easily turned by accident: its notches do nothing. */
  readonly isPressed: boolean;
}
export const restingWheel: WheelState = { isPressed: false };

/**
 * Turning the wheel away brings the point under the cursor closer, towards the hand takes it farther, or the other way
 * round; where it is bound to panning, the view goes by what the device says. A pinch zooms by the fingers' own measure.
 */
export function stepWheel(state: WheelState, sample: Sample, hands: Hands): Recognised<WheelState> {
  switch (sample.type) {
    case 'down':
      return silent(sample.button === 'wheel' ? { isPressed: true } : state);
    case 'up':
      return silent(sample.button === 'wheel' ? restingWheel : state);
    case 'cancel':
      return silent(restingWheel);
    case 'wheel':
      return state.isPressed ? silent(state) : turn(state, sample, hands);
    default:
      return silent(state);
  }
}

/** Enlargement by so many notches. */
export const factorOfNotches = (
  notches: number,
  { percentPerNotch, isWheelReversed }: Pick<Hands, 'percentPerNotch' | 'isWheelReversed'>,
): number => (1 + percentPerNotch / 100) ** (isWheelReversed ? notches : -notches);

function turn(state: WheelState, sample: WheelSample, hands: Hands): Recognised<WheelState> {
  const { notches, pinch, byPx, modifiers = '' } = sample;
  const at = { x: sample.x, y: sample.y };
  if (pinch !== undefined) {
    if (hands.actOf('pinch') !== 'zoom' || pinch === 1) return silent(state);
    return { state, intents: [{ kind: 'zoom', at, factor: pinch, within: 'burst' }] };
  }
  const act = hands.actOf(`${modifiers}turn`) ?? hands.actOf('turn');
  if (act === 'zoom' && notches !== 0)
    return { state, intents: [{ kind: 'zoom', at, factor: factorOfNotches(notches, hands), within: 'burst' }] };
  if (act === 'pan' && byPx) return { state, intents: [{ kind: 'pan', dx: -byPx.x, dy: -byPx.y, within: 'burst' }] };
  return silent(state);
}
