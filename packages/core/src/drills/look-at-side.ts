import { directionOf } from '../camera/orbit.ts';
import { oneStep, type Drill } from './drill.ts';

const NEAR_RAD = (0.5 * Math.PI) / 180;
const sides = [
  ['south', 0],
  ['west', Math.PI / 2],
  ['north', Math.PI],
  ['east', (3 * Math.PI) / 2],
] as const;

export const lookAtSide: Drill = {
  id: 'look-at-side',
  name: 'Look straight at a side',
  kind: 'solid',
  fewest: 1,
  tip: 'The dial goes to any side in one click; each side has a key of its own, too.',
  begin({ whole, random }) {
    const [side, bearingRad] = sides[Math.floor(random() * sides.length)]!;
    return oneStep(`Look straight at the ${side} side of the model.`, whole, ({ camera }) => {
      const direction = directionOf(camera);
      // who looks at the south side stands in the south and looks north
      const turn = Math.abs(direction.bearingRad - bearingRad) % (2 * Math.PI);
      return Math.min(turn, 2 * Math.PI - turn) < NEAR_RAD && Math.abs(direction.tiltRad) < NEAR_RAD;
    });
  },
};
