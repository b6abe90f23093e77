import { silent, type Recogniser } from './intents.ts';
import type { Sample } from './samples.ts';

/** Enlargement of one notch: 20 %. */
export const ZOOM_PER_NOTCH = 1.2;

interface WheelZoomState {
  /** A pressed wheel is easily turned by accident: its notches don't zoom. */
  readonly wheelIsPressed: boolean;
}

/** Turning the wheel away brings the point under the cursor closer, towards the hand takes it farther. */
export const wheelZoom: Recogniser<WheelZoomState, Sample> = {
  initial: { wheelIsPressed: false },
  step(state, sample) {
    switch (sample.type) {
      case 'down':
        return silent(sample.button === 'wheel' ? { wheelIsPressed: true } : state);
      case 'up':
      case 'cancel':
        return silent(sample.button === 'wheel' || sample.type === 'cancel' ? { wheelIsPressed: false } : state);
      case 'wheel':
        if (state.wheelIsPressed || sample.notches === 0) return silent(state);
        return {
          state,
          intents: [{ kind: 'zoom', at: { x: sample.x, y: sample.y }, factor: ZOOM_PER_NOTCH ** -sample.notches }],
        };
      default:
        return silent(state);
    }
  },
};
