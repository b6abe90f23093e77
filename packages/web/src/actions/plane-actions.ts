import { Globe, LocateFixed, Magnet, ScanEye } from 'lucide-react';
import { planeOfView, straightAt, worldPlane } from '@gull-pane/core/plane/work-plane';
import { isWorldPlane } from '@gull-pane/core/view/shown';
import { layPlane } from '../store/lay-plane';
import { layPlaneActions } from './collect-actions';
import type { Action } from './action';

const solid = (action: Omit<Action, 'for'>): Action => ({ ...action, for: 'solid' });

const byViewAction = solid({
  id: 'plane-view',
  name: 'Plane by the view',
  sentence: 'Lays the work plane parallel to the screen, through the middle of the view.',
  keys: [],
  icon: ScanEye,
  run({ pane }) {
    const { camera } = pane.getState();
    layPlane(pane, planeOfView(camera, camera.target));
  },
});

const worldAction = solid({
  id: 'plane-world',
  name: 'World plane',
  sentence: 'Back to the ground: east, north, height 0.',
  keys: ['\\'],
  icon: Globe,
  run: ({ pane }) => layPlane(pane, worldPlane),
  isEnabled: ({ pane }) => !isWorldPlane(pane.getState().shown),
});

const straightAction = solid({
  id: 'plane-straight',
  name: 'Look straight at the plane',
  sentence: 'Turns the view until the work plane is seen without foreshortening.',
  keys: ["'"],
  icon: LocateFixed,
  run({ pane }) {
    const { plane } = pane.getState().shown.workPlane;
    pane.getState().travel((from) => straightAt(from, plane));
  },
});

/** The planes that points are placed in. */
export const planeActions: readonly Action[] = [...layPlaneActions, byViewAction, worldAction, straightAction];

export const nextSnapAction: Action<'tools'> = {
  id: 'next-snap',
  name: 'Next snap',
  sentence: 'Where several snaps are near, takes the next one.',
  keys: ['.'],
  icon: Magnet,
  run: ({ tools }) => tools.getState().nextSnap(),
};
