import { isFramed, oneStep, placeIn, type Drill } from './drill.ts';

export const frameDetail: Drill = {
  id: 'frame-detail',
  name: 'Frame a detail',
  kind: 'any',
  fewest: 1,
  tip: 'Frame corners takes two clicks: one corner of what you want to see, then the opposite one.',
  begin(scene) {
    const place = placeIn(scene, 0.06);
    return oneStep('Make the marked square fill the pane.', scene.whole, (state) => isFramed(place, state), [place]);
  },
};
