import { bearingOf, twistBy } from '../camera/twist.ts';
import { oneStep, type Drill } from './drill.ts';

const NEAR_RAD = 1e-6;

export const straighten: Drill = {
  id: 'straighten',
  name: 'Put a twisted plan right',
  kind: 'flat',
  fewest: 1,
  tip: 'North up puts a plan right at once; Square up turns it to the nearest right angle.',
  begin({ whole, random }) {
    const angle = (0.3 + random()) * (random() < 0.5 ? 1 : -1);
    return oneStep('The plan lies askew. Turn it so that north is up.', twistBy(whole, angle), ({ camera }) => {
      const turn = Math.abs(bearingOf(camera)) % (2 * Math.PI);
      return Math.min(turn, 2 * Math.PI - turn) < NEAR_RAD;
    });
  },
};
