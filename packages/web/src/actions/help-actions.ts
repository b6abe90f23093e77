import { Hand, Keyboard, Menu, MessageSquareText, Timer } from 'lucide-react';
import { unitsOfScreenPx } from '../words/figure-style';
import { useNotes } from '../store/notes-store';
import type { Action, Parts } from './action';

export const keysAction: Action<'ui'> = {
  id: 'keys',
  name: 'Keys and gestures',
  sentence: 'Lists all keys and gestures, to search and to print.',
  keys: ['Shift+?', '?', 'F1'],
  icon: Keyboard,
  run: ({ ui }) => ui.getState().set({ panel: ui.getState().panel === 'keys' ? null : 'keys' }),
};

export const handsAction: Action<'ui'> = {
  id: 'hands',
  name: 'Hands and picture',
  sentence: 'Sets mouse, trackpad and touch habits, the wheel’s step, own keys and smooth edges.',
  keys: [','],
  icon: Hand,
  run: ({ ui }) => ui.getState().set({ panel: ui.getState().panel === 'hands' ? null : 'hands' }),
};

export const warmUpAction: Action<'ui'> = {
  id: 'warm-up',
  name: 'Warm-up',
  sentence: 'Short drills for your hands, with your own best times and the quicker way.',
  keys: ['Shift+F1'],
  icon: Timer,
  run: ({ ui }) => ui.getState().set({ panel: ui.getState().panel === 'warm-up' ? null : 'warm-up' }),
};

export const menuAction: Action<'pane' | 'ui'> = {
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

async function tellView({
  drawing,
  pane,
  picked,
  picks,
}: Parts<'pane' | 'drawing' | 'picked' | 'picks'>): Promise<void> {
  const { viewInWords } = await import('../words/view-in-words');
  const { drawing: own, layers } = drawing.getState();
  const { camera, viewport, shown } = pane.getState();
  const { hovered } = picks.getState();
  useNotes.getState().tell(
    'done',
    viewInWords({
      drawing: own.name,
      kind: own.kind,
      unit: own.unit,
      layers: layers.length,
      camera,
      viewport,
      shown,
      picked: picked.getState().picked.size,
      unitsOfScreenPx: unitsOfScreenPx(drawing),
      under: hovered && (hovered.name ?? hovered.kind),
    }),
  );
}

export const tellViewAction: Action<'pane' | 'drawing' | 'picked' | 'picks'> = {
  id: 'tell-view',
  name: 'Tell the view',
  sentence: 'Tells in words what the pane shows: drawing, direction, scale, place, layers, picks.',
  keys: ['Shift+6'],
  icon: MessageSquareText,
  run: (target) => void tellView(target),
};
