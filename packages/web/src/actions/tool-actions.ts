import { Aperture, Frame, MoveHorizontal } from 'lucide-react';
import { toolInHand, type ToolId } from '../store/tool-store';
import type { Action } from './action';

const tool = (action: Omit<Action, 'run' | 'isOn'>, id: ToolId): Action => ({
  ...action,
  run: ({ tools }) => tools.getState().toggle(id),
  isOn: ({ tools }) => toolInHand(tools.getState()) === id,
});

export const frameCornersAction = tool(
  {
    id: 'frame-corners',
    name: 'Frame corners',
    sentence: 'Drag over an area, or click two corners, and it fills the pane.',
    keys: ['c'],
    icon: Frame,
  },
  'frame',
);

export const lensAction = tool(
  {
    id: 'lens-tool',
    name: 'Lens',
    sentence: 'Shows what is under the cursor enlarged; a click goes there. Hold its key to borrow it.',
    keys: ['l'],
    icon: Aperture,
  },
  'lens',
);

export const levelLineAction = tool(
  {
    for: 'flat',
    id: 'level-line',
    name: 'Level a line',
    sentence: 'Click a slanted line, or show one by two points, and the view twists until it lies level.',
    keys: ['v'],
    icon: MoveHorizontal,
  },
  'level',
);
