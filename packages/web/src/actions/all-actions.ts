import type { DrawingKind } from '@gull-pane/protocol/drawings';
import type { Action } from './action';
import { cardActions, keepViewAction } from './card-actions';
import { changeActions } from './change-actions';
import { clipActions, clipBoxAction, clipsAction, sectionAction } from './clip-actions';
import { findAction, nextHitAction, previousHitAction } from './find-actions';
import { railAction, railWordsAction, restoreWorkspaceAction, shelfAction, trailStripAction } from './home-actions';
import { handsAction, keysAction, menuAction, tellViewAction, warmUpAction } from './help-actions';
import { keyCursorAction } from './key-cursor-action';
import { paneActions } from './pane-actions';
import { seenActions } from './seen-actions';
import { shareActions } from './share-actions';
import { fitSheetAction, nextSheetAction, previousSheetAction } from './sheet-actions';
import { hideTheseAction, onlyTheseAction, showAllAction } from './show-actions';
import { fitWithoutStraysAction, returnAction } from './sight-actions';
import { measureActions } from './collect-actions';
import { kindsActions } from './kinds-actions';
import { markActions } from './mark-actions';
import { nextSnapAction, planeActions } from './plane-actions';
import { frameCornersAction, lensAction, levelLineAction } from './tool-actions';
import {
  boxTakesAction,
  clearPicksAction,
  framePickedAction,
  nextUnderAction,
  onlyThisLayerAction,
  otherPicksAction,
  sameKindAction,
  sameLayerAction,
} from './pick-actions';
import {
  directionActions,
  fittedDirectionActions,
  homeAction,
  orbitAction,
  solidViewActions,
  standAction,
  turnActions,
} from './solid-actions';
import { tourActions } from './tour-actions';
import { quarterLeftAction, quarterRightAction, squareUpAction } from './twist-actions';
import {
  backAction,
  centreHereAction,
  closerAction,
  fartherAction,
  fitAllAction,
  forwardAction,
  shiftActions,
  sixAxisAction,
  twiceOutAction,
} from './view-actions';

/** Actions of the rail that belong together. */
export interface RailGroup {
  readonly id: 'zoom' | 'trail' | 'twist' | 'turn' | 'clip';
  readonly name: string;
  /** Each has a button. */
  readonly actions: readonly Action[];
  /** Rarely used: they stand in the group's menu. */
  readonly rare?: readonly Action[];
}

const rareOf = (all: readonly Action[], common: readonly Action[]): readonly Action[] =>
  all.filter((action) => !common.includes(action));

const moveGroups: readonly RailGroup[] = [
  {
    id: 'zoom',
    name: 'Zoom',
    actions: [frameCornersAction, framePickedAction, fitAllAction, lensAction, closerAction, fartherAction],
    rare: [fitSheetAction, fitWithoutStraysAction, twiceOutAction, centreHereAction, returnAction],
  },
  { id: 'trail', name: 'Trail', actions: [backAction, forwardAction, keepViewAction] },
];

/** What the tool rail shows besides the tools that place points. */
export const railGroups: Readonly<Record<DrawingKind, readonly RailGroup[]>> = {
  flat: [
    ...moveGroups,
    { id: 'twist', name: 'Twist', actions: [quarterLeftAction, quarterRightAction, levelLineAction, squareUpAction] },
  ],
  solid: [
    ...moveGroups,
    {
      id: 'turn',
      name: 'Turn',
      actions: [orbitAction, standAction, homeAction],
      rare: rareOf(turnActions, [orbitAction, standAction, homeAction]),
    },
    {
      id: 'clip',
      name: 'Clip',
      actions: [clipBoxAction, sectionAction, clipsAction],
      rare: rareOf(clipActions, [clipBoxAction, sectionAction, clipsAction]),
    },
  ],
};

/** What is done with sheets. */
export const sheetActions: readonly Action[] = [fitSheetAction, nextSheetAction, previousSheetAction];

export const findActions: readonly Action[] = [findAction, nextHitAction, previousHitAction];
/** Parts of the page that fold. */
export const homeActions: readonly Action[] = [
  shelfAction,
  railAction,
  railWordsAction,
  trailStripAction,
  restoreWorkspaceAction,
];

/** What is done with what is picked. */
export const pickActions: readonly Action[] = [
  sameKindAction,
  sameLayerAction,
  otherPicksAction,
  nextUnderAction,
  onlyThisLayerAction,
  boxTakesAction,
  clearPicksAction,
];

/** What hides objects and shows them. */
export const showActions: readonly Action[] = [onlyTheseAction, hideTheseAction, showAllAction];

/** Rows of the short menu after its first one, by what it is opened over. */
export const menuRows: Readonly<Record<'idle' | 'tool' | 'picked', readonly Action[]>> = {
  idle: [centreHereAction, frameCornersAction, lensAction, fitAllAction],
  tool: [frameCornersAction, lensAction, centreHereAction, fitAllAction],
  picked: [framePickedAction, onlyTheseAction, hideTheseAction, clearPicksAction],
};

interface FurtherMenu {
  readonly name: string;
  readonly actions: readonly Action[];
}

/** Everything else, so that the menu itself stays short. */
export const furtherMenus: readonly { readonly name: string; readonly menus: readonly FurtherMenu[] }[] = [
  {
    name: 'View',
    menus: [
      { name: 'Scale', actions: [closerAction, fartherAction, twiceOutAction] },
      { name: 'Sheets', actions: sheetActions },
      { name: 'Trail', actions: [backAction, forwardAction] },
      { name: 'Views', actions: cardActions },
      { name: 'Twist', actions: [quarterLeftAction, quarterRightAction, levelLineAction, squareUpAction] },
      { name: 'Turn', actions: turnActions },
      { name: 'Directions', actions: directionActions },
      { name: 'Panes', actions: paneActions },
    ],
  },
  {
    name: 'Objects',
    menus: [
      { name: 'Picks', actions: pickActions },
      { name: 'Show', actions: showActions },
      { name: 'Clip', actions: clipActions },
      { name: 'Work plane', actions: planeActions },
    ],
  },
  {
    name: 'More',
    menus: [
      { name: 'Measure', actions: measureActions },
      { name: 'Marks', actions: markActions },
      { name: 'Tours', actions: tourActions },
      { name: 'Check', actions: [...changeActions, ...seenActions] },
      { name: 'Share', actions: shareActions },
      { name: 'Controller', actions: [sixAxisAction] },
      { name: 'Access', actions: [keyCursorAction, tellViewAction] },
      { name: 'Page', actions: homeActions },
    ],
  },
];

export const allActions: readonly Action[] = [
  ...new Set([
    ...[...railGroups.flat, ...railGroups.solid].flatMap(({ actions, rare = [] }) => [...actions, ...rare]),
    ...turnActions,
    quarterLeftAction,
    quarterRightAction,
    squareUpAction,
    ...directionActions,
    ...fittedDirectionActions,
    ...solidViewActions,
    ...clipActions,
    centreHereAction,
    returnAction,
    fitWithoutStraysAction,
    nextSheetAction,
    previousSheetAction,
    ...pickActions,
    ...showActions,
    ...cardActions.filter((action) => action !== keepViewAction),
    ...paneActions,
    ...shareActions,
    ...tourActions,
    ...kindsActions,
    ...measureActions,
    ...markActions,
    ...planeActions,
    nextSnapAction,
    ...shiftActions,
    sixAxisAction,
    ...findActions,
    ...homeActions,
    ...changeActions,
    ...seenActions,
    keyCursorAction,
    tellViewAction,
    menuAction,
    keysAction,
    handsAction,
    warmUpAction,
  ]),
];

export const actionById: ReadonlyMap<string, Action> = new Map(allActions.map((action) => [action.id, action]));
