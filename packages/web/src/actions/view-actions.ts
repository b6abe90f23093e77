import { ArrowLeft, ArrowRight, Crosshair, Joystick, Maximize, Minus, Plus, Shrink } from 'lucide-react';
import { centreAt, panBy } from '@gull-pane/core/camera/pan';
import { zoomAboutMiddle } from '@gull-pane/core/camera/zoom';
import { canGoBack, canGoForward } from '@gull-pane/core/trail/trail';
import type { Action } from './action';

/** How much Closer and Farther change the scale. */
export const STEP_FACTOR = 2;
/** How far an arrow key moves the view, as a share of the pane's shorter side. */
const KEY_PAN_SHARE = 0.2;

const zoomAction = (action: Omit<Action, 'run'>, factor: number): Action => ({
  ...action,
  run: ({ pane }) =>
    pane.getState().travel((from, viewport, limits) => zoomAboutMiddle(from, viewport, factor, limits)),
});

export const fitAllAction: Action<'pane'> = {
  id: 'fit-all',
  name: 'Fit all',
  sentence: 'Zooms so that everything visible just fits the pane.',
  keys: ['a', 'Home'],
  icon: Maximize,
  run: ({ pane }) => pane.getState().fitAll(),
};

export const closerAction = zoomAction(
  {
    id: 'closer',
    name: 'Closer',
    sentence: 'Zooms in by a factor of two at the middle of the pane.',
    keys: ['+', '=', 'Shift++'],
    icon: Plus,
  },
  STEP_FACTOR,
);

export const fartherAction = zoomAction(
  {
    id: 'farther',
    name: 'Farther',
    sentence: 'Zooms out by a factor of two at the middle of the pane.',
    keys: ['-', 'Shift+_'],
    icon: Minus,
  },
  1 / STEP_FACTOR,
);

export const twiceOutAction = zoomAction(
  {
    id: 'twice-out',
    name: 'Twice out',
    sentence: 'Zooms out by a factor of four.',
    keys: ['o'],
    icon: Shrink,
  },
  STEP_FACTOR ** -2,
);

export const centreHereAction: Action<'pane'> = {
  id: 'centre-here',
  name: 'Centre here',
  sentence: 'Brings the point under the cursor to the middle of the pane.',
  keys: ['m'],
  icon: Crosshair,
  run({ pane }, at) {
    const { cursor, isFlying } = pane.getState();
    const point = at ?? cursor;
    if (!point || isFlying) return; // the point under the cursor is another one when the travel ends
    const own = pane.getState();
    own.travel((from, viewport) => centreAt(own.atSurface(from, viewport, point), viewport, point));
  },
};

export const backAction: Action<'pane'> = {
  id: 'back',
  name: 'Back',
  sentence: 'Goes to the previous view; a burst of the wheel or a drag counts as one step.',
  keys: ['Backspace'],
  icon: ArrowLeft,
  run: ({ pane }) => pane.getState().back(),
  isEnabled: ({ pane }) => canGoBack(pane.getState().trail),
};

export const forwardAction: Action<'pane'> = {
  id: 'forward',
  name: 'Forward',
  sentence: 'Goes to the view that Back came from.',
  keys: ['Shift+Backspace'],
  icon: ArrowRight,
  run: ({ pane }) => pane.getState().forward(),
  isEnabled: ({ pane }) => canGoForward(pane.getState().trail),
};

/** Moves by keys; they have no buttons. */
const shift = (key: string, where: string, right: number, down: number): Action => ({
  id: `look-${where}`,
  name: `Pan ${where}`,
  sentence: `Moves the view a fifth of the pane ${where}.`,
  keys: [key],
  icon: ArrowRight,
  run: ({ pane }) =>
    pane.getState().travel((from, { widthPx, heightPx }) => {
      const side = Math.min(widthPx, heightPx) * KEY_PAN_SHARE;
      return panBy(from, -right * side, -down * side);
    }, 'keys'),
});
export const sixAxisAction: Action<'sixAxis'> = {
  id: 'six-axes',
  name: 'Six axes',
  sentence: 'Shows an on-screen six-axis controller; a connected device works as soon as it is pushed.',
  keys: ['Shift+m'],
  icon: Joystick,
  run({ sixAxis }) {
    const { isShown, show } = sixAxis.getState();
    show(!isShown);
  },
  isOn: ({ sixAxis }) => sixAxis.getState().isShown,
};

export const shiftActions: readonly Action[] = [
  shift('ArrowLeft', 'left', -1, 0),
  shift('ArrowRight', 'right', 1, 0),
  shift('ArrowUp', 'up', 0, -1),
  shift('ArrowDown', 'down', 0, 1),
];
