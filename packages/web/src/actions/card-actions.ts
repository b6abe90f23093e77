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

export const undoDeleteCardAction: Action = {
  id: 'undo-delete-card',
  name: 'Bring the card back',
  sentence: 'Brings back the view card that was deleted last.',
  keys: ['Shift+Delete'],
  icon: Undo2,
  run: ({ cards }) => void cards.getState().undoRemove(),
  isEnabled: ({ cards }) => cards.getState().deleted.length > 0,
};

export const cardActions: readonly Action[] = [keepViewAction, undoDeleteCardAction];
