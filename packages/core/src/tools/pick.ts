import type { Vec2, Vec3 } from '../geometry/vec.ts';
import { screenToWorld } from '../camera/camera.ts';
import { isClickAt, placeOf, stay, type Tool } from './tool.ts';

export interface PickState {
  /** Where the button went down, CSS px, and what is there, so that the view may move under a box. */
  readonly pressed: { readonly at: Vec2; readonly corner: Vec3; readonly changes: boolean } | null;
  /** The other corner of the box while it is drawn, CSS px. */
  readonly to: Vec2 | null;
}

const empty: PickState = { pressed: null, to: null };

/** Picks by a click or a box: what the left button does while no tool is in hand. Shift adds or takes away. */
export const pickTool: Tool<PickState> = {
  initial: empty,
  isPending: ({ to }) => to !== null,
  step(state, sample, { camera, viewport }) {
    switch (sample.type) {
      case 'down': {
        if (sample.button !== 'left') return stay(state);
        const changes = sample.modifiers?.includes('Shift+') === true;
        return stay({
          pressed: { at: placeOf(sample), corner: screenToWorld(camera, viewport, sample), changes },
          to: null,
        });
      }
      case 'move': {
        const { pressed, to } = state;
        if (!pressed || (!to && isClickAt(pressed.at, sample))) return stay(state);
        return stay({ ...state, to: placeOf(sample) });
      }
      case 'up': {
        const { pressed, to } = state;
        if (sample.button !== 'left' || !pressed) return stay(state);
        const { changes, corner } = pressed;
        if (to) return { state: empty, intents: [{ kind: 'pickBox', corner, at: placeOf(sample), changes }] };
        if (!isClickAt(pressed.at, sample)) return stay(empty);
        return { state: empty, intents: [{ kind: 'pick', at: placeOf(sample), changes }] };
      }
      case 'cancel':
        return stay(empty);
      case 'escape':
        if (state.pressed) return stay(empty);
        return { state: empty, intents: [{ kind: 'clearPicks' }] };
      default:
        return stay(state);
    }
  },
};
