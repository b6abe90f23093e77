import {
  ArrowUpFromLine,
  Axis3d,
  Box,
  Circle,
  CircleDot,
  Cloud,
  Copy,
  Cylinder,
  Diameter,
  Grid3x3,
  Layers2,
  MessageSquareText,
  Move,
  MoveVertical,
  PencilLine,
  Radius,
  RectangleHorizontal,
  RotateCw,
  Ruler,
  Slash,
  Spline,
  SquareDashed,
  TriangleRight,
  Waypoints,
  Workflow,
  type LucideIcon,
} from 'lucide-react';
import { collectables, type Collectable } from '@gull-pane/core/tools/collectables';
import { collectingNow } from '../store/tool-store';
import type { Action } from './action';

const icons: Readonly<Record<string, LucideIcon>> = {
  distance: Ruler,
  angle: TriangleRight,
  radius: Radius,
  area: SquareDashed,
  height: MoveVertical,
  faces: Layers2,
  'mark-point': CircleDot,
  'mark-line': Slash,
  'mark-chain': Waypoints,
  'mark-rectangle': RectangleHorizontal,
  'mark-circle': Circle,
  'mark-circle-two': Diameter,
  'mark-circle-three': Workflow,
  'mark-arc': Spline,
  'mark-note': MessageSquareText,
  'mark-cloud': Cloud,
  'mark-hatch': Grid3x3,
  'mark-box': Box,
  'mark-cylinder': Cylinder,
  'mark-sphere': CircleDot,
  'move-marks': Move,
  'copy-marks': Copy,
  'turn-marks': RotateCw,
  'plane-points': Axis3d,
  'plane-face': Layers2,
  'plane-edge': PencilLine,
  'plane-offset': ArrowUpFromLine,
};
const keys: Readonly<Record<string, readonly string[]>> = { distance: ['d'] };

const actionOf = (collectable: Collectable): Action => {
  const { id, group, name, sentence } = collectable;
  return {
    id,
    name,
    sentence,
    keys: keys[id] ?? [],
    icon: icons[id] ?? Ruler,
    ...(collectable.for ? { for: collectable.for } : {}),
    run: ({ tools }) => tools.getState().collect(id),
    isOn: ({ tools }) => collectingNow(tools.getState()) === id,
    ...(group === 'change' ? { isEnabled: ({ marks }) => marks.getState().chosen.size > 0 } : {}),
  };
};

const actionsOf = (group: Collectable['group']): readonly Action[] =>
  collectables.filter((each) => each.group === group).map(actionOf);

/** What is measured, drawn on top and so on: one action for each entry of `collectables`. */
export const measureActions = actionsOf('measure');
export const drawActions = actionsOf('mark');
export const changeActions = actionsOf('change');
export const layPlaneActions = actionsOf('plane');
export const distanceAction = measureActions[0]!;
