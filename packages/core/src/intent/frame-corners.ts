import type { Vec2 } from '../geometry/vec.ts';
import { silent, type Recognised, type Recogniser } from './intents.ts';
import type { PointerSample, Sample } from './samples.ts';

/** The left button that moves less than this clicks, it doesn't drag; CSS px. */
export const CLICK_PX = 4;

export type FrameCornersState =
  | { readonly phase: 'empty' }
  | {
      readonly phase: 'cornered';
      /** Where the first corner was pressed; null once the view has moved under it. */
      readonly pressedAt: Vec2 | null;
      /** While the button that set the corner is still down. */
      readonly isHeld: boolean;
    };

/**
 * Frames an area by dragging or by two clicks. Escape takes the pending corner back, then leaves the tool. Wheel and
 * wheel-button samples pass by: the tool goes on when the view has moved.
 */
export const frameCornersTool: Recogniser<FrameCornersState, Sample> = {
  initial: { phase: 'empty' },
  step(state, sample) {
    switch (sample.type) {
      case 'down':
        return sample.button === 'left' ? press(state, sample) : silent(forgetPress(state));
      case 'wheel':
        return silent(forgetPress(state));
      case 'move':
        if (state.phase === 'empty') return silent(state);
        return { state, intents: [{ kind: 'frameMove', at: pointOf(sample) }] };
      case 'up':
        return sample.button === 'left' ? release(state, sample) : silent(state);
      case 'cancel':
      case 'escape':
        if (state.phase === 'empty') return { state, intents: sample.type === 'escape' ? [{ kind: 'leaveTool' }] : [] };
        return { state: { phase: 'empty' }, intents: [{ kind: 'frameDrop' }] };
      default:
        return silent(state);
    }
  },
};

function press(state: FrameCornersState, sample: PointerSample): Recognised<FrameCornersState> {
  if (state.phase === 'empty') {
    const at = pointOf(sample);
    return { state: { phase: 'cornered', pressedAt: at, isHeld: true }, intents: [{ kind: 'frameBegin', at }] };
  }
  return isClickAt(state.pressedAt, sample) ? silent(state) : finish(sample);
}

function release(state: FrameCornersState, sample: PointerSample): Recognised<FrameCornersState> {
  if (state.phase === 'empty' || !state.isHeld) return silent(state);
  return isClickAt(state.pressedAt, sample) ? silent({ ...state, isHeld: false }) : finish(sample);
}

const finish = (sample: PointerSample): Recognised<FrameCornersState> => ({
  state: { phase: 'empty' },
  intents: [{ kind: 'frameEnd', at: pointOf(sample) }, { kind: 'leaveTool' }],
});

const forgetPress = (state: FrameCornersState): FrameCornersState =>
  state.phase === 'cornered' ? { ...state, pressedAt: null } : state;

const pointOf = (sample: PointerSample): Vec2 => ({ x: sample.x, y: sample.y });
const isClickAt = (a: Vec2 | null, b: Vec2): boolean =>
  a !== null && Math.abs(b.x - a.x) <= CLICK_PX && Math.abs(b.y - a.y) <= CLICK_PX;
