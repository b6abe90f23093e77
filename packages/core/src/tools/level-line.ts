import type { Vec2, Vec3 } from '../geometry/vec.ts';
import { isClickAt, placeOf, pointAt, stay, type Tool, type ToolStep, type ToolView } from './tool.ts';

export interface LevelState {
  readonly from: Vec3 | null;
  readonly at: Vec2 | null;
  readonly pressedAt: Vec2 | null;
  /** Whether the button that set the first point is still down. */
  readonly isHeld: boolean;
}

const empty: LevelState = { from: null, at: null, pressedAt: null, isHeld: false };

/** Twists the view so that a line shown by two points lies level. */
export const levelLineTool: Tool<LevelState> = {
  initial: empty,
  isPending: ({ from }) => from !== null,
  snaps: true,
  step(state, sample, view) {
    switch (sample.type) {
      case 'move':
        return stay({ ...state, at: placeOf(sample) });
      case 'down': {
        if (sample.button !== 'left') return stay({ ...state, pressedAt: null, isHeld: false });
        const at = placeOf(sample);
        if (!state.from) return stay({ from: pointAt(at, view), at, pressedAt: at, isHeld: true });
        return isClickAt(state.pressedAt, at) ? stay(state) : finish(state.from, at, view);
      }
      case 'up':
        if (sample.button !== 'left' || !state.from || !state.isHeld) return stay(state);
        return isClickAt(state.pressedAt, sample)
          ? stay({ ...state, isHeld: false })
          : finish(state.from, placeOf(sample), view);
      case 'enter':
        return state.from && state.at ? finish(state.from, state.at, view) : stay(state);
      case 'escape':
        return state.from ? stay({ ...empty, at: state.at }) : { state, intents: [{ kind: 'leaveTool' }] };
      default:
        return stay(state);
    }
  },
};

const finish = (from: Vec3, at: Vec2, view: ToolView): ToolStep<LevelState> => ({
  state: empty,
  intents: [{ kind: 'level', from, to: pointAt(at, view) }, { kind: 'leaveTool' }],
});
