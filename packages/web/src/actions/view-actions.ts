import { ArrowLeft, ArrowRight, Frame, Maximize, ZoomIn, ZoomOut } from 'lucide-react';
import { canGoBack, canGoForward } from '@gull-pane/core/trail/trail';
import type { Action } from './action';

export const frameCornersAction: Action = {
  id: 'frame-corners',
  name: 'Frame corners',
  sentence: 'Drag over an area, or click two corners, and it fills the pane.',
  keys: ['c'],
  icon: Frame,
  run: ({ pane }) => pane.getState().chooseTool(pane.getState().tool === 'frame' ? 'none' : 'frame'),
  isOn: ({ pane }) => pane.getState().tool === 'frame',
};

export const fitAllAction: Action = {
  id: 'fit-all',
  name: 'Fit all',
  sentence: 'Everything that is visible touches the margin of the pane.',
  keys: ['a', 'Home'],
  icon: Maximize,
  run: ({ pane }) => pane.getState().fitAll(),
};

export const closerAction: Action = {
  id: 'closer',
  name: 'Closer',
  sentence: 'Twice as large about the middle of the pane.',
  keys: ['+', '=', 'Shift++'],
  icon: ZoomIn,
  run: ({ pane }) => pane.getState().step(1),
};

export const fartherAction: Action = {
  id: 'farther',
  name: 'Farther',
  sentence: 'Half as large about the middle of the pane.',
  keys: ['-', 'Shift+_'],
  icon: ZoomOut,
  run: ({ pane }) => pane.getState().step(-1),
};

export const backAction: Action = {
  id: 'back',
  name: 'Back',
  sentence: 'To the view before this one; a burst of the wheel or a drag is one step.',
  keys: ['Backspace'],
  icon: ArrowLeft,
  run: ({ pane }) => pane.getState().back(),
  isEnabled: ({ pane }) => canGoBack(pane.getState().trail),
};

export const forwardAction: Action = {
  id: 'forward',
  name: 'Forward',
  sentence: 'To the view that Back came from.',
  keys: ['Shift+Backspace'],
  icon: ArrowRight,
  run: ({ pane }) => pane.getState().forward(),
  isEnabled: ({ pane }) => canGoForward(pane.getState().trail),
};

/** Moves by keys; they have no buttons. */
const shift = (key: string, where: string, right: number, down: number): Action => ({
  id: `shift-${where}`,
  name: `Look ${where}`,
  sentence: `Moves the view a fifth of the pane ${where}.`,
  keys: [key],
  icon: ArrowRight,
  run: ({ pane }) => pane.getState().shift(right, down),
});
export const shiftActions: readonly Action[] = [
  shift('ArrowLeft', 'left', -1, 0),
  shift('ArrowRight', 'right', 1, 0),
  shift('ArrowUp', 'up', 0, -1),
  shift('ArrowDown', 'down', 0, 1),
];

/** What the tool rail shows, in groups. */
export const railGroups: readonly (readonly Action[])[] = [
  [frameCornersAction, fitAllAction],
  [closerAction, fartherAction],
  [backAction, forwardAction],
];

export const viewActions: readonly Action[] = [...railGroups.flat(), ...shiftActions];
