import { BookmarkPlus, Undo2 } from 'lucide-react';
import type { Action } from './action';

export const keepViewAction: Action = {
  id: 'keep-view',
  name: 'Keep this view',
  sentence: 'Makes a view card of what the pane shows: where, how, which layers and objects, what cuts it.',
  keys: ['Shift+j'],
  icon: BookmarkPlus,
  run: ({ cards }) => void cards.getState().keep(),
};

export const undoCardAction: Action = {
  id: 'undo-card',
  name: 'Undo with the cards',
  sentence: 'Takes back the last change of a view card: one that was deleted comes back, a name is what it was.',
  keys: ['Shift+Delete'],
  icon: Undo2,
  run: ({ cards }) => void cards.getState().undo(),
  isEnabled: ({ cards }) => cards.getState().undoes !== null,
};

export const cardActions: readonly Action[] = [keepViewAction, undoCardAction];
