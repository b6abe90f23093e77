import type { Vec2 } from '../geometry/vec.ts';
import { silent, type Intent, type Recognised, type Recogniser } from './intents.ts';
import type { PointerSample, Sample } from './samples.ts';

/** A pressed wheel that moves less than this trembles, it doesn't drag; CSS px. */
export const TREMBLE_PX = 4;
/** Two presses closer together than this are a double press, ms. */
export const DOUBLE_PRESS_MS = 320;

type WheelButtonState =
  | { readonly phase: 'idle' }
  | { readonly phase: 'pressed'; readonly from: Vec2; readonly isSecond: boolean }
  | { readonly phase: 'dragging'; readonly last: Vec2 }
  /** Released without a drag: a second press may follow until the deadline. */
  | { readonly phase: 'released'; readonly at: Vec2; readonly untilMs: number };

/**
 * The wheel as a button: drag pans, double press fits all, a single press brings the point to the middle once it is
 * sure that no second press follows. A tremble while pressing doesn't pan.
 */
export const wheelButton: Recogniser<WheelButtonState, Sample> = {
  initial: { phase: 'idle' },
  step(state, sample) {
    switch (sample.type) {
      case 'down':
        return sample.button === 'wheel' ? press(state, sample) : settleEarly(state);
      case 'move':
        return move(state, sample);
      case 'up':
        return sample.button === 'wheel' ? release(state, sample) : silent(state);
      case 'cancel':
        return { state: { phase: 'idle' }, intents: state.phase === 'dragging' ? [{ kind: 'dragEnd' }] : [] };
      case 'time':
        if (state.phase !== 'released') return silent(state);
        if (sample.timeMs < state.untilMs) return { state, intents: [], deadlineMs: state.untilMs };
        return { state: { phase: 'idle' }, intents: [{ kind: 'centre', at: state.at }] };
      case 'wheel':
        return settleEarly(state);
      default:
        return silent(state);
    }
  },
};

function press(state: WheelButtonState, sample: PointerSample): Recognised<WheelButtonState> {
  const near = state.phase === 'released' && distance(state.at, sample) <= 2 * TREMBLE_PX;
  const isSecond = near && sample.timeMs <= state.untilMs;
  const before: Intent[] = state.phase === 'released' && !isSecond ? [{ kind: 'centre', at: state.at }] : [];
  return { state: { phase: 'pressed', from: { x: sample.x, y: sample.y }, isSecond }, intents: before };
}

function move(state: WheelButtonState, sample: PointerSample): Recognised<WheelButtonState> {
  const here = { x: sample.x, y: sample.y };
  if (state.phase === 'dragging') {
    const intents: Intent[] = [{ kind: 'pan', dx: here.x - state.last.x, dy: here.y - state.last.y }];
    return { state: { phase: 'dragging', last: here }, intents };
  }
  if (state.phase === 'pressed' && distance(state.from, here) > TREMBLE_PX) {
    // the whole way counts once it is a drag, so that the point that was pressed stays under the hand
    const intents: Intent[] = [{ kind: 'pan', dx: here.x - state.from.x, dy: here.y - state.from.y }];
    return { state: { phase: 'dragging', last: here }, intents };
  }
  return state.phase === 'released' ? { state, intents: [], deadlineMs: state.untilMs } : silent(state);
}

function release(state: WheelButtonState, sample: PointerSample): Recognised<WheelButtonState> {
  if (state.phase === 'dragging') return { state: { phase: 'idle' }, intents: [{ kind: 'dragEnd' }] };
  if (state.phase !== 'pressed') return silent(state);
  if (state.isSecond) return { state: { phase: 'idle' }, intents: [{ kind: 'fitAll' }] };
  const untilMs = sample.timeMs + DOUBLE_PRESS_MS;
  return { state: { phase: 'released', at: state.from, untilMs }, intents: [], deadlineMs: untilMs };
}

/** Another act has begun: a single press that was waiting is given up, since the view is about to move anyway. */
function settleEarly(state: WheelButtonState): Recognised<WheelButtonState> {
  return silent(state.phase === 'released' ? { phase: 'idle' } : state);
}

const distance = (a: Vec2, b: Vec2): number => Math.hypot(b.x - a.x, b.y - a.y);
