import { CaseSensitive, LayoutTemplate, PanelBottom, PanelLeft } from 'lucide-react';
import { HAS_ROOM_FOR_WORDS, usePreferences } from '../store/preferences-store';
import type { Action } from './action';

/** Folds a part of the page, or opens it again. */
const folds = (part: 'isShelfOpen' | 'isRailOpen' | 'isTrailOpen', action: Omit<Action, 'run'>): Action => ({
  ...action,
  run() {
    const own = usePreferences.getState();
    own.set({ [part]: !own[part] });
  },
});

export const shelfAction = folds('isShelfOpen', {
  id: 'shelf',
  name: 'Shelf',
  sentence: 'Folds or opens the shelf on the left.',
  keys: ['Shift+s'],
  icon: PanelLeft,
});

export const railAction = folds('isRailOpen', {
  id: 'rail',
  name: 'Tool rail',
  sentence: 'Hides or shows the tool rail.',
  keys: ['Shift+r'],
  icon: PanelLeft,
});

const hasWords = (): boolean => usePreferences.getState().hasRailWords ?? matchMedia(HAS_ROOM_FOR_WORDS).matches;

export const railWordsAction: Action = {
  id: 'rail-words',
  name: 'Tool names',
  sentence: 'Shows or hides the names beside the icons of the tool rail.',
  keys: [],
  icon: CaseSensitive,
  run: () => usePreferences.getState().set({ hasRailWords: !hasWords() }),
  isOn: hasWords,
};

export const trailStripAction = folds('isTrailOpen', {
  id: 'trail-strip',
  name: 'Trail strip',
  sentence: 'Hides or shows the trail’s pictures.',
  keys: ['Shift+t'],
  icon: PanelBottom,
});

export const restoreWorkspaceAction: Action<'tools' | 'ui'> = {
  id: 'restore-workspace',
  name: 'Restore the workspace',
  sentence: 'Resets the layout of the page; drawings, views and keys stay as they are.',
  keys: ['Shift+w'],
  icon: LayoutTemplate,
  run: ({ tools, ui }) => {
    usePreferences
      .getState()
      .set({ isShelfOpen: true, shelfPanel: 'layers', isTrailOpen: true, isRailOpen: true, hasRailWords: null });
    ui.getState().set({ panel: null, menuAt: null });
    tools.getState().leave();
  },
};
