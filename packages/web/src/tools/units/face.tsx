import type { ReactElement } from 'react';
import { KeyCaps } from '../../actions/action-tip';
import { putAway, type ToolUnit } from '../unit';

const unit = (does: string): ToolUnit => ({
  Prompt: (): ReactElement => (
    <>
      Click a face of the model: it {does}. <KeyCaps keyName="Escape" /> puts the tool away.
    </>
  ),
  nextAct: (target) => putAway(target),
});

export const sectionUnit = unit('cuts away everything before it');
export const faceBoxUnit = unit('lays a clip box along it');
