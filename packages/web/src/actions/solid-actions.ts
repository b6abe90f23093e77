import {
  Axis3d,
  Box,
  Home,
  HousePlus,
  Lock,
  Map,
  Orbit,
  PersonStanding,
  RefreshCw,
  Rotate3d,
  Scale3d,
  Spotlight,
  SunDim,
} from 'lucide-react';
import { standardDirections, HOME_DIRECTION, type StandardDirection } from '@gull-pane/core/camera/directions';
import { levelUp, orientationOf, rollOf, type Direction } from '@gull-pane/core/camera/orbit';
import { orbitModes } from '@gull-pane/core/camera/orbit-drag';
import { api } from '../api/client';
import { cameraFromDto, cameraToDto } from '../wire/camera-dto';
import { troubleOf } from '../store/drawings-store';
import { useNotes } from '../store/notes-store';
import { hasRoomForDial, isDialOpenNow, isWorking } from '../store/dial';
import { usePreferences } from '../store/preferences-store';
import { withLook } from '@gull-pane/core/view/shown';
import { solidLooks } from '@gull-pane/core/solid/solid-looks';
import { toolInHand } from '../store/tool-store';
import type { Action, Parts } from './action';

/** Turns a pane to a direction about the middle of what is looked at. @param isFitting fits everything there, too */
export function goToDirection({ pane }: Parts<'pane'>, direction: Direction, isFitting = false): void {
  pane.getState().turnTo(orientationOf(direction), isFitting);
}

const solid = (action: Omit<Action, 'for'>): Action => ({ ...action, for: 'solid' });

export const orbitAction = solid({
  id: 'orbit-tool',
  name: 'Orbit',
  sentence: 'Drag to turn the model about the point you grab, or about the picked objects.',
  keys: ['b'],
  icon: Rotate3d,
  run: ({ tools }) => tools.getState().toggle('orbit'),
  isOn: ({ tools }) => toolInHand(tools.getState()) === 'orbit',
});

export const standAction = solid({
  id: 'stand',
  name: 'Stand',
  sentence: 'Click a floor to stand there at eye height; look around, walk, and go back.',
  keys: ['Shift+f'],
  icon: PersonStanding,
  run: ({ tools }) => tools.getState().toggle('stand'),
  isOn: ({ tools }) => toolInHand(tools.getState()) === 'stand',
});

export const levelUpAction = solid({
  id: 'level-up',
  name: 'Level up',
  sentence: 'Levels the horizon and keeps what you look at.',
  keys: ['y'],
  icon: Scale3d,
  run({ pane }) {
    const own = pane.getState();
    own.travel((from, viewport) => levelUp(from, own.pivotOf(from, viewport)));
  },
  isEnabled: ({ pane }) => Math.abs(rollOf(pane.getState().camera)) > 1e-9,
});

export const homeAction = solid({
  id: 'go-home',
  name: 'Go home',
  sentence: 'Goes to the drawing’s home view; from south-east, above, if none was set.',
  keys: ['i'],
  icon: Home,
  run({ pane, drawing }) {
    const own = pane.getState();
    const { home } = drawing.getState().drawing;
    if (home) own.travel(() => cameraFromDto(home));
    else {
      own.travel((from, viewport) => own.fitted({ ...from, orientation: orientationOf(HOME_DIRECTION) }, viewport));
    }
  },
});

export const setHomeAction = solid({
  id: 'set-home',
  name: 'Set home',
  sentence: 'Makes this view the drawing’s home view.',
  keys: ['Shift+g'],
  icon: HousePlus,
  run({ pane, drawing }) {
    const home = cameraToDto(pane.getState().camera);
    const { drawing: own, setHome } = drawing.getState();
    setHome(home);
    const { tell } = useNotes.getState();
    api.setHome(own.id, home).then(
      () => tell('done', 'Home view set'),
      (error: unknown) => tell('failed', `The home view isn’t kept: ${troubleOf(error).title}`),
    );
  },
});

export const lockAction = solid({
  id: 'plan-lock',
  name: 'Plan lock',
  sentence: 'Keeps plans and elevations from turning by accident: orbit gestures pan instead.',
  keys: ['Shift+u'],
  icon: Lock,
  run({ pane }) {
    const { isLocked, setLocked } = pane.getState();
    setLocked(!isLocked);
  },
  isOn: ({ pane }) => pane.getState().isLocked,
});

export const projectionAction = solid({
  id: 'projection',
  name: 'Switch projection',
  sentence: 'Switches between parallel and perspective; what is in focus keeps its size.',
  keys: ['q'],
  icon: Box,
  run: ({ pane }) => pane.getState().switchProjection(),
});

export const lookAction = solid({
  id: 'next-look',
  name: 'Next look',
  sentence:
    'Cycles through lines, hidden line, hidden edges dashed, shaded, shaded + edges, materials and see-through.',
  keys: ['w'],
  icon: SunDim,
  run: ({ pane }) =>
    pane
      .getState()
      .update(
        (shown) => withLook(shown, solidLooks[(solidLooks.indexOf(shown.look) + 1) % solidLooks.length]!),
        'look',
      ),
});

export const orbitModeAction = solid({
  id: 'next-orbit',
  name: 'Next kind of orbit',
  sentence: 'Cycles through level orbit, open orbit, and orbit about one axis of the screen or the model.',
  keys: ['Shift+y'],
  icon: Orbit,
  run({ pane }) {
    const { orbitMode, setOrbitMode } = pane.getState();
    setOrbitMode(orbitModes[(orbitModes.indexOf(orbitMode) + 1) % orbitModes.length]!);
  },
});

export const driftAction = solid({
  id: 'drift',
  name: 'Drift',
  sentence: 'A turn continues at the speed of the hand until a click or Escape.',
  keys: ['Shift+b'],
  icon: RefreshCw,
  run({ pane }) {
    const { drifts, setDrifts } = pane.getState();
    setDrifts(!drifts);
  },
  isOn: ({ pane }) => pane.getState().drifts,
});

export const turnAloneAction = solid({
  id: 'turn-alone',
  name: 'Turn the picked alone',
  sentence: 'Shows only the selection while the model turns.',
  keys: ['Shift+n'],
  icon: Spotlight,
  run({ pane }) {
    const { turnsAlone, setTurnsAlone } = pane.getState();
    setTurnsAlone(!turnsAlone);
  },
  isOn: ({ pane }) => pane.getState().turnsAlone,
});

export const groundPlanAction = solid({
  id: 'ground-plan',
  name: 'Plan on the ground',
  sentence: 'Shows a plan of the same place on the model’s ground plane, or removes it.',
  keys: ['Shift+p'],
  icon: Map,
  run: ({ groundPlan }) => groundPlan.getState().toggle(),
  isOn: ({ pane }) => pane.getState().shown.groundPlan !== null,
});

export const dialAction = solid({
  id: 'dial',
  name: 'Dial',
  sentence: 'Shows or folds the chart of directions.',
  keys: ['j'],
  icon: Axis3d,
  run(target) {
    const own = target.pane.getState();
    const opens = !isDialOpenNow(target);
    own.setDial(opens ? 'open' : 'folded');
    if (hasRoomForDial(own.viewport) && !isWorking(target)) {
      usePreferences.getState().set({ isDialOpen: opens });
      own.setDial(null);
    }
  },
});

const towards = (direction: StandardDirection, key: string, isFitting = false): Action => {
  const words = direction.name.replace('From', 'from').replace('Plan', 'straight from above');
  return solid({
    id: `${isFitting ? 'fit' : 'look'}-${direction.name.toLowerCase().replaceAll(/[ ,]+/g, '-')}`,
    name: isFitting ? `${direction.name}, everything fitted` : direction.name,
    sentence: `Looks at ${isFitting ? 'all of the model' : 'the model'} ${words}.`,
    keys: [isFitting ? `Shift+${key}` : key],
    icon: Box,
    run: (target) => goToDirection(target, direction, isFitting),
  });
};

const named = (name: string): StandardDirection => standardDirections.find((one) => one.name === name)!;

/** The six faces have keys; the others are on the dial. */
const facing = ['Plan', 'From south', 'From east', 'From north', 'From west', 'From below'].map(named);
export const directionActions: readonly Action[] = facing.map((one, digit) => towards(one, String(digit)));
/** The same with everything fitted. */
export const fittedDirectionActions: readonly Action[] = facing.map((one, digit) => towards(one, String(digit), true));

export const turnActions: readonly Action[] = [
  orbitAction,
  standAction,
  levelUpAction,
  lockAction,
  orbitModeAction,
  driftAction,
  turnAloneAction,
  homeAction,
  setHomeAction,
];
export const solidViewActions: readonly Action[] = [projectionAction, lookAction, groundPlanAction, dialAction];
