import type { ActionTarget } from '../actions/action';
import { toolInHand, type ToolStates } from '../store/tool-store';
import { collectUnit } from './units/collect';
import { faceBoxUnit, sectionUnit } from './units/face';
import { frameCornersUnit } from './units/frame-corners';
import { lensUnit } from './units/lens';
import { levelLineUnit } from './units/level-line';
import { orbitUnit } from './units/orbit';
import { pickUnit } from './units/pick';
import { standUnit } from './units/stand';
import type { LikelyAct, ToolUnit } from './unit';

/** Every tool of the left button, by the name of its state; `pick` is what the button does while none is in hand. */
export const toolUnits: Readonly<Record<keyof ToolStates, ToolUnit>> = {
  frame: frameCornersUnit,
  lens: lensUnit,
  level: levelLineUnit,
  orbit: orbitUnit,
  section: sectionUnit,
  faceBox: faceBoxUnit,
  stand: standUnit,
  collect: collectUnit,
  pick: pickUnit,
};

/** What is most likely meant next with the tool in hand. */
export const likeliestAct = (target: ActionTarget): LikelyAct =>
  toolUnits[toolInHand(target.tools.getState()) ?? 'pick'].nextAct(target);
