import { atPlace } from './places.ts';
import { oneStep, placeIn, type Drill } from './drill.ts';

export const comeBack: Drill = {
  id: 'come-back',
  name: 'Come back',
  kind: 'any',
  fewest: 1,
  tip: 'Back (Backspace) returns to the very view that you came from, to the last digit.',
  begin(scene) {
    const place = placeIn(scene, 0.05);
    const { whole } = scene;
    return oneStep('You are at a detail. Show the whole drawing again.', atPlace(scene, place), ({ camera }) => {
      const { unitsPerPx } = camera;
      return unitsPerPx > 0.8 * whole.unitsPerPx && unitsPerPx < 1.25 * whole.unitsPerPx;
    });
  },
};
