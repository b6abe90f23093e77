import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Action, ActionTarget } from '../actions/action';
import type { KindsMenuId } from '../store/ui-store';
import { collectingNow } from '../store/tool-store';
import { RailMenu } from './rail-menu';

interface KindsMenuProps {
  readonly target: ActionTarget;
  readonly menu: KindsMenuId;
  /** What opens it. */
  readonly opener: Action;
  readonly actions: readonly Action[];
  /** The kind that has a button of its own beside this one. */
  readonly ownButton?: string;
}

/** A button of the rail that opens a menu of kinds; it shows whether one of them is in hand. */
export function KindsMenu({ target, menu, opener, actions, ownButton }: KindsMenuProps): ReactElement {
  const { name, sentence, icon, id } = opener;
  const isOpen = useStore(target.ui, (state) => state.kindsMenu === menu);
  const setOpen = (isToOpen: boolean): void => target.ui.getState().set({ kindsMenu: isToOpen ? menu : null });
  const inHand = useStore(target.tools, collectingNow);
  return (
    <RailMenu
      {...{ target, icon, actions, isOpen }}
      tip={{ name, sentence, actionId: id }}
      isOn={actions.some((action) => action.id === inHand && action.id !== ownButton)}
      onOpenChange={setOpen}
      selected={inHand}
    />
  );
}
