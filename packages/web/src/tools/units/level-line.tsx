import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { KeyCaps } from '../../actions/action-tip';
import { laterWhen } from '../../controls/later';
import { toolInHand } from '../../store/tool-store';
import { byKey, putAway, type ToolUnit, type UnitProps } from '../unit';

const Overlay = laterWhen(
  async () => (await import('../level-overlay')).LevelOverlay,
  ({ target }: UnitProps) =>
    useStore(target.tools, (state) => toolInHand(state) === 'level' || state.states.level.from !== null),
);

function Prompt({ target: { tools } }: UnitProps): ReactElement {
  const hasPoint = useStore(tools, ({ states }) => states.level.from !== null);
  return hasPoint ? (
    <>
      Click a second point of the line. <KeyCaps keyName="Escape" /> takes the first one back.
    </>
  ) : (
    <>
      Click the line that should be level, or two points of it. <KeyCaps keyName="Escape" /> leaves.
    </>
  );
}

export const levelLineUnit: ToolUnit = {
  Prompt,
  Overlay,
  nextAct: (target) =>
    target.tools.getState().states.level.from ? byKey(target, 'Take the point back', 'escape') : putAway(target),
};
