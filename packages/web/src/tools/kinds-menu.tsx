import { ChevronRight } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { canRun, isFor, type Action, type ActionTarget } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { MenuButton } from '../controls/menu-button';
import { shownKey, useBindings } from '../actions/bindings';
import type { KindsMenuId } from '../store/ui-store';
import { collectingNow } from '../store/tool-store';

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
  const { name, sentence, icon: Icon } = opener;
  const isOpen = useStore(target.ui, (state) => state.kindsMenu === menu);
  const setOpen = (isToOpen: boolean): void => target.ui.getState().set({ kindsMenu: isToOpen ? menu : null });
  const bindings = useBindings();
  const inHand = useStore(target.tools, collectingNow);
  const isOn = actions.some(({ id }) => id === inHand && id !== ownButton);
  const rows = actions.filter((action) => isFor(action, target));
  return (
    <MenuButton
      className="icon-button kinds-button"
      label={name}
      tip={{ name, sentence, actionId: opener.id }}
      isOn={isOn}
      isOpen={isOpen}
      onOpenChange={setOpen}
      selected={inHand === null ? [] : [inHand]}
      items={rows.map((action) => ({
        key: action.id,
        icon: <action.icon size={16} aria-hidden />,
        disabled: isOpen && !canRun(action, target),
        label: (
          <span className="kinds-row" title={action.sentence}>
            {action.name}
            <KeyOf input={shownKey(bindings[action.id] ?? [])} />
          </span>
        ),
        onClick: () => action.run(target),
      }))}
    >
      <Icon size={18} aria-hidden />
      <ChevronRight size={9} aria-hidden className="kinds-mark" />
    </MenuButton>
  );
}

const KeyOf = ({ input }: { readonly input: string | undefined }): ReactElement | null =>
  input === undefined ? null : <KeyCaps keyName={input} />;
