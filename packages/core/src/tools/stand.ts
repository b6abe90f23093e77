import type { Vec2 } from '../geometry/vec.ts';
import { isClickAt, placeOf, stay, type Tool } from './tool.ts';

export interface StandState {
  /** Where the button went down, CSS px; null while it is up. */
  readonly from: Vec2 | null;
  readonly last: Vec2 | null;
  /** A drag with Shift does what one without doesn't: walk instead of look, or look instead of walk. */
  readonly isOther: boolean;
}

const idle: StandState = { from: null, last: null, isOther: false };

/** Stands in a model: a click is where, a drag looks about or walks, the wheel takes steps; Escape goes back to before. */
export const standTool: Tool<StandState> = {
  initial: idle,
  isPending: () => false,
  takesWheel: true,
  step(state, sample) {
    switch (sample.type) {
      case 'down': {
        if (sample.button !== 'left') return stay(state);
        return stay({ from: placeOf(sample), last: null, isOther: sample.modifiers?.includes('Shift') === true });
      }
      case 'move': {
        const { from, last, isOther } = state;
        if (!from || (!last && isClickAt(from, sample))) return stay(state);
        const to = placeOf(sample);
        return { state: { ...state, last: to }, intents: [{ kind: 'tow', from, last: last ?? from, to, isOther }] };
      }
      case 'up': {
        const { from, last } = state;
        if (sample.button !== 'left' || !from) return stay(state);
        return { state: idle, intents: [last ? { kind: 'towEnd' } : { kind: 'stand', at: from }] };
      }
      case 'wheel':
        return { state, intents: [{ kind: 'pace', steps: -sample.notches }] };
      case 'cancel':
        return { state: idle, intents: state.last ? [{ kind: 'towEnd' }] : [] };
      case 'escape':
        return { state: idle, intents: [{ kind: 'leaveTool' }] };
      default:
        return stay(state);
    }
  },
};
