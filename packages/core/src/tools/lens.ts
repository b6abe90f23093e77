import { clampRatio, lensRatio } from '../camera/lens.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { placeOf, stay, type Tool } from './tool.ts';

export interface LensState {
  /** Where it is held, CSS px; null while the cursor is elsewhere. */
  readonly at: Vec2 | null;
  readonly ratio: number;
}

/** A notch changes the ratio by the fourth root of two: four double it. */
const RATIO_PER_NOTCH = 2 ** 0.25;

/** The digit 0 stands for ten times, as on a row of keys. */
const RATIO_OF_ZERO = 10;

/** Shows the surroundings of the cursor enlarged before anything moves; a click goes there and puts it away. */
export const lensTool: Tool<LensState> = {
  initial: { at: null, ratio: lensRatio.usual },
  isPending: () => false,
  takesWheel: true,
  takesDigits: true,
  step(state, sample, view) {
    switch (sample.type) {
      case 'move':
        return stay({ ...state, at: placeOf(sample) });
      case 'down':
        if (sample.button !== 'left') return stay(state);
        return { state, intents: [{ kind: 'dive', at: placeOf(sample), ratio: state.ratio }, { kind: 'leaveTool' }] };
      case 'wheel': {
        const turns = view.hands.isWheelReversed ? sample.notches : -sample.notches;
        const factor = sample.pinch ?? RATIO_PER_NOTCH ** turns;
        return stay({ at: placeOf(sample), ratio: clampRatio(state.ratio * factor) });
      }
      case 'digit':
        return stay({ ...state, ratio: clampRatio(sample.digit === 0 ? RATIO_OF_ZERO : sample.digit) });
      case 'escape':
        return { state, intents: [{ kind: 'leaveTool' }] };
      default:
        return stay(state);
    }
  },
};
