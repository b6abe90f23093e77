import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { KeyCaps } from '../../actions/action-tip';
import { RatioInput } from '../later-parts';
import { laterWhen } from '../../controls/later';
import { toolInHand } from '../../store/tool-store';
import { putAway, type OverlayProps, type ToolUnit, type UnitProps } from '../unit';

const Overlay = laterWhen(
  async () => (await import('../lens-view')).LensView,
  ({ target }: OverlayProps) => useStore(target.tools, (state) => toolInHand(state) === 'lens'),
);

const Prompt = ({ target: { tools } }: UnitProps): ReactElement => (
  <>
    Click to go where the lens looks; the wheel changes how much it enlarges:
    <RatioInput tools={tools} />
    <KeyCaps keyName="Escape" /> leaves.
  </>
);

export const lensUnit: ToolUnit = { Prompt, Overlay, nextAct: (target) => putAway(target) };
