import type { Vec2 } from '../geometry/vec.ts';
import { isClickAt, placeOf, stay, type Tool } from './tool.ts';

export interface FaceState {
  /** Where the button went down, CSS px; null while it is up. */
  readonly pressed: Vec2 | null;
}

/** Asks for one face of a model. @param use what it is for */
export const faceTool = (use: 'section' | 'box'): Tool<FaceState> => ({
  initial: { pressed: null },
  isPending: () => false,
  step(state, sample) {
    switch (sample.type) {
      case 'down':
        return sample.button === 'left' ? stay({ pressed: placeOf(sample) }) : stay(state);
      case 'up': {
        const { pressed } = state;
        if (sample.button !== 'left' || !pressed) return stay(state);
        if (!isClickAt(pressed, sample)) return stay({ pressed: null });
        return { state: { pressed: null }, intents: [{ kind: 'cutBy', use, at: pressed }, { kind: 'leaveTool' }] };
      }
      case 'cancel':
        return stay({ pressed: null });
      case 'escape':
        return { state: { pressed: null }, intents: [{ kind: 'leaveTool' }] };
      default:
        return stay(state);
    }
  },
});
