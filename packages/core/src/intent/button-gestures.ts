import type { Vec2 } from '../geometry/vec.ts';
import { follow, speedAtEnd, type TimedPlace } from './glide-speed.ts';
import type { Hands } from './hands.ts';
import { isLasting, type LastingAct } from './inputs.ts';
import { silent, type Intent, type Recognised } from './intents.ts';
import type { PointerButton, PointerSample, Sample } from './samples.ts';

/** A pressed button that moves less than this trembles, it doesn't drag; CSS px. */
export const TREMBLE_PX = 4;
/** Two presses closer together than this are a double press, ms. */
export const DOUBLE_PRESS_MS = 320;
/** A drag of so many px upwards doubles the size. */
export const PX_PER_DOUBLING = 100;

export type ButtonState =
  | { readonly phase: 'idle' }
  | {
      readonly phase: 'pressed';
      readonly button: PointerButton;
      readonly modifiers: string;
      readonly from: Vec2;
      readonly drag: LastingAct | undefined;
      readonly isSecond: boolean;
      /** It moved though nothing is bound to a drag, or the wheel was turned: it is no press any more. */
      readonly isSpent: boolean;
    }
  | {
      readonly phase: 'dragging';
      readonly button: PointerButton;
      readonly act: LastingAct;
      readonly from: Vec2;
      readonly last: Vec2;
      readonly track: readonly TimedPlace[];
    }
  /** Released without a drag: a second press may follow until the deadline. */
  | {
      readonly phase: 'released';
      readonly button: PointerButton;
      readonly modifiers: string;
      readonly at: Vec2;
      readonly untilMs: number;
    };

export const idleButtons: ButtonState = { phase: 'idle' };

/** Whether a button that goes down belongs to navigation, not to the tool in hand. */
export function isForNavigation(sample: PointerSample, held: string | null, hands: Hands): boolean {
  const { button, modifiers = '' } = sample;
  const drag = dragActOf(sample, held, hands);
  if (button === 'left')
    return drag !== undefined && drag !== 'lens' && (held !== null || modifiers !== '' || !hands.hasTool);
  const acts = ['press', 'double'].map((way) => hands.actOf(`${modifiers}${way}:${button}`));
  return drag !== undefined || acts.some((act) => act !== undefined);
}

/**
 * Buttons by their bindings: a drag moves the view, a double press and a single press do actions, the single one once it
 * is sure that no second follows. A tremble while pressing doesn't move anything; the whole way counts once it is a
 * drag, so that the point that was pressed stays under the hand.
 * @param held the key that borrows a movement for the left button
 */
export function stepButtons(
  state: ButtonState,
  sample: Sample,
  held: string | null,
  hands: Hands,
): Recognised<ButtonState> {
  switch (sample.type) {
    case 'down':
      return isForNavigation(sample, held, hands) ? press(state, sample, held, hands) : settleEarly(state);
    case 'move':
      return move(state, sample);
    case 'up':
      return release(state, sample, hands);
    case 'cancel':
      return { state: idleButtons, intents: state.phase === 'dragging' ? [{ kind: 'dragEnd' }] : [] };
    case 'time':
      if (state.phase !== 'released') return silent(state);
      if (sample.timeMs < state.untilMs) return { state, intents: [], deadlineMs: state.untilMs };
      return { state: idleButtons, intents: pressed(state.button, state.modifiers, state.at, hands) };
    case 'wheel':
      // a notch that is turned while the wheel is pressed was meant, the press wasn't
      return state.phase === 'pressed' ? silent({ ...state, isSpent: true }) : settleEarly(state);
    default:
      return silent(state);
  }
}

function dragActOf(
  { button, modifiers = '' }: PointerSample,
  held: string | null,
  hands: Hands,
): LastingAct | undefined {
  const act = hands.actOf(held !== null && button === 'left' ? `hold:${held}` : `${modifiers}drag:${button}`);
  return isLasting(act) ? act : undefined;
}

function pressed(button: PointerButton, modifiers: string, at: Vec2, hands: Hands): Intent[] {
  const id = hands.actOf(`${modifiers}press:${button}`);
  return id === undefined ? [] : [{ kind: 'act', id, at }];
}

function press(state: ButtonState, sample: PointerSample, held: string | null, hands: Hands): Recognised<ButtonState> {
  const { button, modifiers = '' } = sample;
  if (state.phase === 'dragging') return silent(state); // another button meanwhile changes nothing
  const follows = state.phase === 'released' && state.button === button && apart(state.at, sample) <= 2 * TREMBLE_PX;
  const isSecond = follows && sample.timeMs <= state.untilMs;
  const before = state.phase === 'released' && !isSecond ? pressed(state.button, state.modifiers, state.at, hands) : [];
  const from = { x: sample.x, y: sample.y };
  const drag = dragActOf(sample, held, hands);
  return { state: { phase: 'pressed', button, modifiers, from, drag, isSecond, isSpent: false }, intents: before };
}

function move(state: ButtonState, sample: PointerSample): Recognised<ButtonState> {
  const here = { x: sample.x, y: sample.y };
  if (state.phase === 'dragging') {
    const track = follow(state.track, { ...here, timeMs: sample.timeMs });
    return { state: { ...state, last: here, track }, intents: movement(state.act, state.from, state.last, here) };
  }
  if (state.phase === 'pressed' && apart(state.from, here) > TREMBLE_PX) {
    const { drag, from, button } = state;
    if (!drag) return silent({ ...state, isSpent: true });
    const track = [{ ...here, timeMs: sample.timeMs }];
    return {
      state: { phase: 'dragging', button, act: drag, from, last: here, track },
      intents: movement(drag, from, from, here),
    };
  }
  return state.phase === 'released' ? { state, intents: [], deadlineMs: state.untilMs } : silent(state);
}

/** What a drag does on its way from one place to the next. */
export function movement(act: LastingAct, from: Vec2, last: Vec2, here: Vec2): Intent[] {
  const [dx, dy] = [here.x - last.x, here.y - last.y];
  switch (act) {
    case 'zoom':
      return dy === 0 ? [] : [{ kind: 'zoom', at: from, factor: 2 ** (-dy / PX_PER_DOUBLING), within: 'drag' }];
    case 'twist':
      return [{ kind: 'twist', from: last, to: here }];
    case 'orbit':
      return [{ kind: 'orbit', from, last, to: here }];
    case 'pan':
      return [{ kind: 'pan', dx, dy, within: 'drag' }];
    case 'lens':
      return [];
  }
}

function release(state: ButtonState, sample: PointerSample, hands: Hands): Recognised<ButtonState> {
  if (state.phase === 'idle' || state.phase === 'released' || sample.button !== state.button) return silent(state);
  if (state.phase === 'dragging') {
    const velocity = state.act === 'pan' || state.act === 'orbit' ? speedAtEnd(state.track, sample.timeMs) : undefined;
    return { state: idleButtons, intents: [velocity ? { kind: 'dragEnd', velocity } : { kind: 'dragEnd' }] };
  }
  const { button, modifiers, from, isSecond, isSpent } = state;
  if (isSpent) return silent(idleButtons);
  const double = hands.actOf(`${modifiers}double:${button}`);
  if (double === undefined) return { state: idleButtons, intents: pressed(button, modifiers, from, hands) };
  if (isSecond) return { state: idleButtons, intents: [{ kind: 'act', id: double, at: from }] };
  const untilMs = sample.timeMs + DOUBLE_PRESS_MS;
  return { state: { phase: 'released', button, modifiers, at: from, untilMs }, intents: [], deadlineMs: untilMs };
}

/** Another act has begun: a single press that was waiting is given up, since the view is about to move anyway. */
const settleEarly = (state: ButtonState): Recognised<ButtonState> =>
  silent(state.phase === 'released' ? idleButtons : state);

const apart = (a: Vec2, b: Vec2): number => Math.hypot(b.x - a.x, b.y - a.y);
