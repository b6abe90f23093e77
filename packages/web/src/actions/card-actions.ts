import { BookmarkPlus, Undo2 } from 'lucide-react';
import type { Action } from './action';

export const keepViewAction: Action<'cards'> = {
  id: 'keep-view',
  name: 'Keep this view',
  sentence: 'Saves what the pane shows as a view card: camera, looks, layers, objects and clips.',
  keys: ['Shift+j'],
  icon: BookmarkPlus,
  run: ({ cards }) => void cards.getState().keep(),
};

export const undoCardAction: Action<'cards'> = {
  id: 'undo-card',
  name: 'Undo with the cards',
  sentence: 'Undoes the last change to a view card, a deletion, too.',
  keys: ['Shift+Delete'],
  icon: Undo2,
  run: ({ cards }) => void cards.getState().undo(),
  isEnabled: ({ cards }) => cards.getState().undoes !== null,
};

export const cardActions: readonly Action[] = [keepViewAction, undoCardAction];
