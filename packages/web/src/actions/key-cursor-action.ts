import { SquareMousePointer } from 'lucide-react';
import { USUAL_STEP } from '@gull-pane/core/intent/key-cursor';
import type { Action } from './action';

export const keyCursorAction: Action<'pane' | 'ui'> = {
  id: 'key-cursor',
  name: 'Keyboard cursor',
  sentence: 'Arrow keys move a cursor and the space bar clicks, in every tool and with its snaps.',
  keys: ['p'],
  icon: SquareMousePointer,
  run({ ui, pane }) {
    const isOn = ui.getState().keyCursor !== null;
    ui.getState().set({ keyCursor: isOn ? null : USUAL_STEP });
    if (isOn) return;
    const own = pane.getState();
    const { cursor, viewport } = own;
    own.setCursor(cursor ?? { x: viewport.widthPx / 2, y: viewport.heightPx / 2 });
  },
  isOn: ({ ui }) => ui.getState().keyCursor !== null,
};
