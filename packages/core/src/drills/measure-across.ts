import type { Box3 } from '../geometry/box.ts';
import type { Vec3 } from '../geometry/vec.ts';
import { placeIn, type Drill } from './drill.ts';

/** Side of a square as a share of the drawing. */
const SIDE = 0.05;
/** A snap beside a square counts as well, up to this share of its side away. */
const BESIDE = 1;
/** So far apart they lie at least, as a share of the drawing's longer side. */
const APART = 0.3;
const MOST_TRIES = 50;

export const measureAcross: Drill = {
  id: 'measure-across',
  name: 'Measure between panes',
  kind: 'flat',
  fewest: 4,
  tip: 'F2 splits the pane; frame one square in each. Then Measure: the first point in one pane, the second in the other.',
  begin(scene) {
    const { min, max } = scene.extents;
    const far = APART * Math.max(max.x - min.x, max.y - min.y);
    const one = placeIn(scene, SIDE);
    let other = placeIn(scene, SIDE);
    for (let k = 0; k < MOST_TRIES && apart(one, other) < far; k++) other = placeIn(scene, SIDE);
    if (apart(one, other) < far) return null;
    return {
      goal: 'Measure from square 1 to square 2, with a pane for each.',
      camera: scene.whole,
      marked: [one, other],
      areAllMarked: true,
      steps: 1,
      reached({ panes, points }) {
        const [from, to] = points.slice(-2);
        if (panes < 2 || !from || !to) return 0;
        return (isIn(from, one) && isIn(to, other)) || (isIn(from, other) && isIn(to, one)) ? 1 : 0;
      },
    };
  },
};

const apart = (a: Box3, b: Box3): number => Math.hypot(a.min.x - b.min.x, a.min.y - b.min.y);

function isIn({ x, y }: Vec3, { min, max }: Box3): boolean {
  const beside = BESIDE * (max.x - min.x);
  return x >= min.x - beside && x <= max.x + beside && y >= min.y - beside && y <= max.y + beside;
}
