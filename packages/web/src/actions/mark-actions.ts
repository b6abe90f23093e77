import { withMarks } from '@gull-pane/core/view/shown';
import { Eye, Redo2, Trash2, Undo2 } from 'lucide-react';
import { changeActions, drawActions } from './collect-actions';
import type { Action } from './action';

export const undoAction: Action<'marks'> = {
  id: 'undo-mark',
  name: 'Undo',
  sentence: 'Undoes the last change to the marks.',
  keys: ['Ctrl+z'],
  icon: Undo2,
  run: ({ marks }) => marks.getState().undo(),
  isEnabled: ({ marks }) => marks.getState().undoes !== null,
};

export const redoAction: Action<'marks'> = {
  id: 'redo-mark',
  name: 'Redo',
  sentence: 'Redoes what was undone.',
  keys: ['Ctrl+Shift+z', 'Ctrl+y'],
  icon: Redo2,
  run: ({ marks }) => marks.getState().redo(),
  isEnabled: ({ marks }) => marks.getState().redoes !== null,
};

const deleteAction: Action<'marks'> = {
  id: 'delete-marks',
  name: 'Delete marks',
  sentence: 'Deletes the chosen marks; undo brings them back.',
  keys: ['Delete'],
  icon: Trash2,
  run: ({ marks }) => marks.getState().remove([...marks.getState().chosen]),
  isEnabled: ({ marks }) => marks.getState().chosen.size > 0,
};

const showAction: Action<'pane'> = {
  id: 'marks-on-off',
  name: 'Marks on or off',
  sentence: 'Hides the marks in this pane, and shows them again.',
  keys: [],
  icon: Eye,
  run: ({ pane }) => pane.getState().update((shown) => withMarks(shown, !shown.marks.areShown), 'marks'),
};

/** What is done with marks. */
export const markActions: readonly Action[] = [
  ...drawActions,
  ...changeActions,
  deleteAction,
  undoAction,
  redoAction,
  showAction,
];
