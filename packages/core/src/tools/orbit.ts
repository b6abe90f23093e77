import type { Vec2 } from '../geometry/vec.ts';
import { follow, speedAtEnd, type TimedPlace } from '../intent/glide-speed.ts';
import { isClickAt, placeOf, stay, type Tool } from './tool.ts';

export interface OrbitState {
  /** Where the button went down, CSS px; null while it is up. */
  readonly from: Vec2 | null;
  readonly last: Vec2 | null;
  readonly track: readonly TimedPlace[];
}

const idle: OrbitState = { from: null, last: null, track: [] };

/** Turns the model with the left button, about what was grabbed; Escape puts it away. */
export const orbitTool: Tool<OrbitState> = {
  initial: idle,
  isPending: () => false,
  step(state, sample) {
    switch (sample.type) {
      case 'down':
        return sample.button === 'left' ? stay({ ...idle, from: placeOf(sample) }) : stay(state);
      case 'move': {
        const { from, last, track } = state;
        if (!from || (!last && isClickAt(from, sample))) return stay(state);
        const to = placeOf(sample);
        const next = { from, last: to, track: follow(track, { ...to, timeMs: sample.timeMs }) };
        return { state: next, intents: [{ kind: 'orbit', from, last: last ?? from, to }] };
      }
      case 'up': {
        if (sample.button !== 'left' || !state.from) return stay(state);
        const velocity = state.last ? speedAtEnd(state.track, sample.timeMs) : undefined;
        const end = velocity ? ({ kind: 'dragEnd', velocity } as const) : ({ kind: 'dragEnd' } as const);
        return { state: idle, intents: state.last ? [end] : [] };
      }
      case 'cancel':
        return { state: idle, intents: state.last ? [{ kind: 'dragEnd' }] : [] };
      case 'escape':
        return { state: idle, intents: [{ kind: 'leaveTool' }] };
      default:
        return stay(state);
    }
  },
};
