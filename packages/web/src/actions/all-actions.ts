import type { Action } from './action';
import { handsAction, keysAction, menuAction } from './help-actions';
import { distanceAction, frameCornersAction, lensAction, levelLineAction } from './tool-actions';
import { quarterLeftAction, quarterRightAction, squareUpAction } from './twist-actions';
import {
  backAction,
  centreHereAction,
  closerAction,
  fartherAction,
  fitAllAction,
  fitSheetAction,
  forwardAction,
  shiftActions,
  twiceOutAction,
} from './view-actions';

/** What the tool rail shows, in groups. */
export const railGroups: readonly (readonly Action[])[] = [
  [distanceAction],
  [frameCornersAction, lensAction, fitAllAction, fitSheetAction],
  [closerAction, fartherAction, twiceOutAction],
  [backAction, forwardAction],
  [quarterLeftAction, quarterRightAction, levelLineAction, squareUpAction],
];

/** What the short menu shows below its first row, and what it has in further menus. */
export const menuRows: readonly Action[] = [centreHereAction, frameCornersAction, lensAction, fitAllAction];
export const furtherMenus: readonly { readonly name: string; readonly actions: readonly Action[] }[] = [
  { name: 'Scale', actions: [closerAction, fartherAction, twiceOutAction, fitSheetAction] },
  { name: 'Trail', actions: [backAction, forwardAction] },
  { name: 'Twist', actions: [quarterLeftAction, quarterRightAction, levelLineAction, squareUpAction] },
  { name: 'Measure', actions: [distanceAction] },
];

export const allActions: readonly Action[] = [
  ...railGroups.flat(),
  centreHereAction,
  ...shiftActions,
  menuAction,
  keysAction,
  handsAction,
];

export const actionById: ReadonlyMap<string, Action> = new Map(allActions.map((action) => [action.id, action]));
