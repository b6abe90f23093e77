import { Compass, RotateCcw, RotateCw } from 'lucide-react';
import { isAlongAxis, planTilt, squaredUp } from '@gull-pane/core/camera/directions';
import { directionOf, orientationOf, rollOf, turnAbout } from '@gull-pane/core/camera/orbit';
import { bearingOf, twistTo } from '@gull-pane/core/camera/twist';
import type { Action } from './action';
import { goToDirection } from './solid-actions';

const QUARTER = Math.PI / 2;

/** To the next multiple of a quarter turn on that side, so that a twisted view comes square again. */
function nextQuarter(bearingRad: number, side: 1 | -1): number {
  const quarters = bearingRad / QUARTER;
  const next = side > 0 ? Math.floor(quarters + 1e-6) + 1 : Math.ceil(quarters - 1e-6) - 1;
  return next * QUARTER;
}

const turn = (action: Omit<Action, 'run'>, side: 1 | -1): Action => ({
  ...action,
  run({ pane }) {
    const own = pane.getState();
    own.travel((from, viewport) => {
      if (planTilt(from) === 0) return twistTo(from, nextQuarter(bearingOf(from), side));
      const { bearingRad, tiltRad } = directionOf(from);
      const next = orientationOf({ bearingRad: nextQuarter(bearingRad, side), tiltRad });
      return turnAbout(from, own.pivotOf(from, viewport), next);
    });
  },
});

export const quarterLeftAction = turn(
  {
    id: 'quarter-left',
    name: 'Turn a quarter left',
    sentence: 'Turns the drawing counterclockwise to the next right angle.',
    keys: ['['],
    icon: RotateCcw,
  },
  1,
);
export const quarterRightAction = turn(
  {
    id: 'quarter-right',
    name: 'Turn a quarter right',
    sentence: 'Turns the drawing clockwise to the next right angle.',
    keys: [']'],
    icon: RotateCw,
  },
  -1,
);

export const squareUpAction: Action<'pane' | 'drawing'> = {
  id: 'square-up',
  name: 'Square up',
  sentence: 'Puts north at the top again; in a model, looks straight along the nearest axis.',
  keys: ['u'],
  icon: Compass,
  run(target) {
    const { kind } = target.drawing.getState().drawing;
    const own = target.pane.getState();
    if (kind === 'solid') goToDirection(target, squaredUp(own.camera));
    else own.travel((from) => twistTo(from, 0));
  },
  isEnabled({ pane, drawing }) {
    const { camera } = pane.getState();
    if (drawing.getState().drawing.kind === 'flat') return bearingOf(camera) !== 0;
    return !isAlongAxis(directionOf(camera)) || Math.abs(rollOf(camera)) > 1e-9;
  },
};
