import { Axis3d, DraftingCompass, PencilLine } from 'lucide-react';
import { usePreferences } from '../store/preferences-store';
import type { KindsMenuId } from '../store/ui-store';
import type { Action } from './action';

const opens = (menu: KindsMenuId, action: Omit<Action, 'run'>): Action => ({
  ...action,
  run({ ui }) {
    // the menus stand on the rail
    usePreferences.getState().set({ isRailOpen: true });
    ui.getState().set({ kindsMenu: ui.getState().kindsMenu === menu ? null : menu });
  },
});

export const measureMenuAction = opens('measure', {
  id: 'measure-menu',
  name: 'Measure',
  sentence: 'Measures angles, radii, areas, heights and distances to faces.',
  keys: ['t'],
  icon: DraftingCompass,
});

export const marksMenuAction = opens('marks', {
  id: 'marks-menu',
  name: 'Marks',
  sentence: 'Draws on top of the drawing: lines, notes, hatches and more.',
  keys: [';'],
  icon: PencilLine,
});

export const planeMenuAction = opens('plane', {
  id: 'plane-menu',
  name: 'Work plane',
  sentence: 'Lays the plane in which points are placed.',
  for: 'solid',
  keys: ['`'],
  icon: Axis3d,
});

export const kindsActions: readonly Action[] = [measureMenuAction, marksMenuAction, planeMenuAction];
