import type { Vec2, Vec3 } from '../geometry/vec.ts';
import { isClickAt, placeOf, pointAt, stay, type Tool, type ToolStep } from './tool.ts';

export interface LevelState {
  readonly from: Vec3 | null;
  readonly at: Vec2 | null;
  readonly pressedAt: Vec2 | null;
  /** Whether the button that set the first point is still down. */
  readonly isHeld: boolean;
  /** The line that the button went down on: let go there, it is the one. */
  readonly line: readonly [Vec3, Vec3] | null;
}

const empty: LevelState = { from: null, at: null, pressedAt: null, isHeld: false, line: null };

/** Twists the view so that a line becomes level: click the line itself, or two points of it. */
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
        if (!state.from) {
          const line = view.snap?.line ?? null;
          return stay({ from: pointAt(at, view), at, pressedAt: at, isHeld: true, line });
        }
        return isClickAt(state.pressedAt, at) ? stay(state) : finish(state.from, pointAt(at, view));
      }
      case 'up':
        if (sample.button !== 'left' || !state.from || !state.isHeld) return stay(state);
        if (!isClickAt(state.pressedAt, sample)) return finish(state.from, pointAt(placeOf(sample), view));
        return state.line ? finish(...state.line) : stay({ ...state, isHeld: false });
      case 'enter':
        return state.from && state.at ? finish(state.from, pointAt(state.at, view)) : stay(state);
      case 'escape':
        return state.from ? stay({ ...empty, at: state.at }) : { state, intents: [{ kind: 'leaveTool' }] };
      default:
        return stay(state);
    }
  },
};

const finish = (from: Vec3, to: Vec3): ToolStep<LevelState> => ({
  state: empty,
  intents: [{ kind: 'level', from, to }, { kind: 'leaveTool' }],
});
