import type { ReactElement } from 'react';
import { KeyCaps } from '../../actions/action-tip';
import { putAway, type ToolUnit } from '../unit';

const Prompt = (): ReactElement => (
  <>
    Drag turns the model about what you grab; the wheel zooms. <KeyCaps keyName="Escape" /> puts the tool away.
  </>
);

export const orbitUnit: ToolUnit = { Prompt, nextAct: (target) => putAway(target) };
