import type { Vec2, Vec3 } from '../geometry/vec.ts';
import { isClickAt, placeOf, pointAt, stay, type Tool, type ToolStep } from './tool.ts';

export interface FrameState {
  /** The first corner, in the drawing, so that the view may move under it. */
  readonly corner: Vec3 | null;
  /** The other one while it is chosen, CSS px. */
  readonly to: Vec2 | null;
  /** Where the first corner was pressed; null once the view has moved under it. */
  readonly pressedAt: Vec2 | null;
  /** While the button that set the corner is still down. */
  readonly isHeld: boolean;
}

const empty: FrameState = { corner: null, to: null, pressedAt: null, isHeld: false };

/** Frames an area by dragging or by two clicks. */
export const frameCornersTool: Tool<FrameState> = {
  initial: empty,
  isPending: ({ corner }) => corner !== null,
  step(state, sample, view) {
    switch (sample.type) {
      case 'down':
        if (sample.button !== 'left') return stay(forgetPress(state));
        if (!state.corner) {
          const at = placeOf(sample);
          return stay({ corner: pointAt(at, view), to: at, pressedAt: at, isHeld: true });
        }
        return isClickAt(state.pressedAt, sample) ? stay(state) : finish(state, sample);
      case 'wheel':
        return stay(forgetPress(state));
      case 'move':
        return stay(state.corner ? { ...state, to: placeOf(sample) } : state);
      case 'up':
        if (sample.button !== 'left' || !state.corner || !state.isHeld) return stay(state);
        return isClickAt(state.pressedAt, sample) ? stay({ ...state, isHeld: false }) : finish(state, sample);
      case 'enter':
        return state.to ? finish(state, state.to) : stay(state);
      case 'cancel':
        return stay(state.isHeld ? empty : state);
      case 'escape':
        return state.corner ? stay(empty) : { state, intents: [{ kind: 'leaveTool' }] };
      default:
        return stay(state);
    }
  },
};

const finish = ({ corner }: FrameState, at: Vec2): ToolStep<FrameState> => ({
  state: empty,
  intents: [{ kind: 'frame', corner: corner!, at: placeOf(at) }, { kind: 'leaveTool' }],
});

const forgetPress = (state: FrameState): FrameState => (state.pressedAt ? { ...state, pressedAt: null } : state);
