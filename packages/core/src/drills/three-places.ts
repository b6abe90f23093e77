import { isFramed, placeIn, type Drill } from './drill.ts';

export const threePlaces: Drill = {
  id: 'three-places',
  name: 'Three places in turn',
  kind: 'any',
  fewest: 3,
  tip: 'Frame corners works from any view; between far places, zoom out about the cursor and in again without letting go.',
  begin(scene) {
    const marked = [0, 1, 2].map(() => placeIn(scene, 0.08));
    return {
      goal: 'Frame the marked squares one after the other: 1, 2, 3.',
      camera: scene.whole,
      marked,
      steps: marked.length,
      reached: (state, reached) => (isFramed(marked[reached]!, state) ? reached + 1 : reached),
    };
  },
};
