import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { KeyCaps } from '../../actions/action-tip';
import { putAway, type ToolUnit, type UnitProps } from '../unit';

function Prompt({ target: { stance } }: UnitProps): ReactElement {
  const isStanding = useStore(stance, (state) => state.walker !== null);
  const dragDoes = useStore(stance, (state) => state.dragDoes);
  if (!isStanding)
    return (
      <>
        Click the floor where you want to stand. <KeyCaps keyName="Escape" /> puts the tool away.
      </>
    );
  return (
    <>
      Drag {dragDoes === 'look' ? 'looks about, with Shift it leads you' : 'leads you, with Shift it looks about'};
      arrows walk and turn; a click stands elsewhere; <KeyCaps keyName="Escape" /> goes back.
    </>
  );
}

export const standUnit: ToolUnit = {
  Prompt,
  nextAct: (target) => putAway(target, target.stance.getState().walker ? 'Leave the stance' : undefined),
};
