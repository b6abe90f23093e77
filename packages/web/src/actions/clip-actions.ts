import { Box, BoxSelect, FlipHorizontal2, Scissors, SquareDashedBottom } from 'lucide-react';
import { toolInHand } from '../store/tool-store';
import type { Action } from './action';

const solid = (action: Omit<Action, 'for'>): Action => ({ ...action, for: 'solid' });

export const clipBoxAction = solid({
  id: 'clip-box',
  name: 'Clip box',
  sentence: 'Shows only what lies in a box around the selection, or around everything; drag its sides.',
  keys: ['Shift+c'],
  icon: Box,
  run: ({ clips }) => clips.getState().addBox(),
});

export const sectionAction = solid({
  id: 'section',
  name: 'Section by a face',
  sentence: 'Click a face to cut away everything in front of its plane; then move the plane.',
  keys: ['Shift+v'],
  icon: Scissors,
  run: ({ tools }) => tools.getState().toggle('section'),
  isOn: ({ tools }) => toolInHand(tools.getState()) === 'section',
});

export const faceBoxAction = solid({
  id: 'clip-box-by-face',
  name: 'Clip box along a face',
  sentence: 'Click a face to lay a clip box along it, around its object or the selection.',
  keys: ['Shift+q'],
  icon: SquareDashedBottom,
  run: ({ tools }) => tools.getState().toggle('faceBox'),
  isOn: ({ tools }) => toolInHand(tools.getState()) === 'faceBox',
});

export const flipClipAction = solid({
  id: 'flip-clip',
  name: 'Flip the clip',
  sentence: 'Keeps the other side of the chosen box or plane.',
  keys: ['Shift+d'],
  icon: FlipHorizontal2,
  run({ clips, pane }) {
    const { chosen, change } = clips.getState();
    const volume = pane.getState().shown.clips.find(({ id }) => id === chosen);
    if (volume) change(volume.id, { keeps: volume.keeps === 'inside' ? 'outside' : 'inside' });
  },
  isEnabled: ({ clips }) => clips.getState().chosen !== null,
});

export const clipsAction = solid({
  id: 'clips-on-off',
  name: 'Clips on or off',
  sentence: 'Switches all clips of this pane off and on again.',
  keys: ['Shift+z'],
  icon: BoxSelect,
  run: ({ clips }) => clips.getState().toggleAll(),
  isEnabled: ({ pane }) => pane.getState().shown.clips.length > 0,
  isOn: ({ pane }) => pane.getState().shown.clips.some(({ isOn }) => isOn),
});

export const clipActions: readonly Action[] = [
  clipBoxAction,
  faceBoxAction,
  sectionAction,
  flipClipAction,
  clipsAction,
];
