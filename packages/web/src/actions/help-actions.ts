import { Hand, Keyboard, Menu } from 'lucide-react';
import type { Action } from './action';

export const keysAction: Action = {
  id: 'keys',
  name: 'Keys and gestures',
  sentence: 'Lists all keys and gestures, to search and to print.',
  keys: ['Shift+?', '?', 'F1'],
  icon: Keyboard,
  run: ({ ui }) => ui.getState().set({ panel: ui.getState().panel === 'keys' ? null : 'keys' }),
};

export const handsAction: Action = {
  id: 'hands',
  name: 'Hands and picture',
  sentence: 'Sets mouse, trackpad and touch habits, the wheel’s step, own keys and smooth edges.',
  keys: [','],
  icon: Hand,
  run: ({ ui }) => ui.getState().set({ panel: ui.getState().panel === 'hands' ? null : 'hands' }),
};

export const menuAction: Action = {
  id: 'menu',
  name: 'Short menu',
  sentence: 'Opens at the cursor; its first row is the likeliest next act.',
  keys: ['ContextMenu', 'Shift+F10'],
  icon: Menu,
  run({ ui, pane }, at) {
    const { cursor, viewport } = pane.getState();
    ui.getState().set({ menuAt: at ?? cursor ?? { x: viewport.widthPx / 2, y: viewport.heightPx / 2 } });
  },
};
