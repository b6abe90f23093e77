import { lastingActs, type ActId } from '@gull-pane/core/intent/inputs';
import type { Action } from '../actions/action';
import { directionActions, fittedDirectionActions, solidViewActions, turnActions } from '../actions/solid-actions';
import { findActions, homeActions, pickActions, railGroups, sheetActions, showActions } from '../actions/all-actions';
import { changeActions } from '../actions/change-actions';
import { cardActions } from '../actions/card-actions';
import { measureActions } from '../actions/collect-actions';
import { marksMenuAction, measureMenuAction, planeMenuAction } from '../actions/kinds-actions';
import { markActions } from '../actions/mark-actions';
import { nextSnapAction, planeActions } from '../actions/plane-actions';
import { clipActions } from '../actions/clip-actions';
import { paneActions } from '../actions/pane-actions';
import { seenActions } from '../actions/seen-actions';
import { shareActions } from '../actions/share-actions';
import { tourActions } from '../actions/tour-actions';
import { lastingNames } from '../actions/bindings';
import { handsAction, keysAction, menuAction, tellViewAction, warmUpAction } from '../actions/help-actions';
import { keyCursorAction } from '../actions/key-cursor-action';
import { shiftActions, sixAxisAction } from '../actions/view-actions';

/** One act as the sheet and the editor tell it. */
export interface ActRow {
  readonly id: ActId;
  readonly name: string;
  readonly sentence: string;
}

const rowsOf = (actions: readonly Action[]): ActRow[] =>
  actions.map(({ id, name, sentence }) => ({ id, name, sentence }));
const ofGroup = (id: string): readonly Action[] => {
  const group = railGroups.flat.find((one) => one.id === id)!;
  return [...group.actions, ...(group.rare ?? [])];
};
const [zooms, trail, twists] = ['zoom', 'trail', 'twist'].map(ofGroup) as [Action[], Action[], Action[]];

/** Everything that can be done by hands and keys, in groups. */
export const actGroups: readonly { readonly name: string; readonly rows: readonly ActRow[] }[] = [
  {
    name: 'Moving about',
    rows: [...lastingActs.map((id) => ({ id, ...lastingNames[id] })), ...rowsOf([...shiftActions, sixAxisAction])],
  },
  { name: 'Zoom', rows: rowsOf([...new Set([...zooms, ...sheetActions])]) },
  { name: 'Back and forward', rows: rowsOf(trail) },
  { name: 'Twist', rows: rowsOf(twists) },
  { name: 'Turning models', rows: rowsOf([...turnActions, ...solidViewActions]) },
  { name: 'Directions', rows: rowsOf([...directionActions, ...fittedDirectionActions]) },
  { name: 'Picking', rows: rowsOf(pickActions) },
  { name: 'Showing', rows: rowsOf(showActions) },
  { name: 'Clips', rows: rowsOf(clipActions) },
  { name: 'Panes', rows: rowsOf(paneActions) },
  {
    name: 'Views and links',
    rows: rowsOf([...cardActions.filter((action) => !trail.includes(action)), ...shareActions]),
  },
  { name: 'Tours', rows: rowsOf(tourActions) },
  { name: 'Checking', rows: rowsOf([...changeActions, ...seenActions]) },
  { name: 'Finding', rows: rowsOf(findActions) },
  { name: 'The page', rows: rowsOf(homeActions) },
  { name: 'Measuring', rows: rowsOf([measureMenuAction, ...measureActions, nextSnapAction]) },
  { name: 'Marks', rows: rowsOf([marksMenuAction, ...markActions]) },
  { name: 'Work plane', rows: rowsOf([planeMenuAction, ...planeActions]) },
  { name: 'Help', rows: rowsOf([keyCursorAction, tellViewAction, menuAction, keysAction, handsAction, warmUpAction]) },
];

/** In every tool, in every profile. */
export const grammar: readonly (readonly [keys: readonly string[], does: string])[] = [
  [[], 'The left button picks or places.'],
  [['Enter'], 'or a double click finishes.'],
  [['Escape'], 'steps back once, then puts the tool away.'],
];
