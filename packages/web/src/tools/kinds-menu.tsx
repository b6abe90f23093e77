import { Dropdown } from 'antd';
import { ChevronRight } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { canRun, isFor, type Action, type ActionTarget } from '../actions/action';
import { ActionTip, KeyCaps } from '../actions/action-tip';
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
    <Dropdown
      trigger={['click']}
      placement="bottomLeft"
      autoFocus
      open={isOpen}
      onOpenChange={setOpen}
      menu={{
        selectedKeys: inHand === null ? [] : [inHand],
        items: rows.map((action) => ({
          key: action.id,
          icon: <action.icon size={16} aria-hidden />,
          disabled: isOpen && !canRun(action, target),
          label: (
            <span className="kinds-row" title={action.sentence}>
              {action.name}
              <KeyOf input={shownKey(bindings[action.id] ?? [])} />
            </span>
          ),
        })),
        onClick: ({ key }) => {
          setOpen(false);
          rows.find(({ id }) => id === key)?.run(target);
        },
      }}
    >
      <span>
        <ActionTip name={name} sentence={sentence} actionId={opener.id}>
          <button
            type="button"
            className="icon-button kinds-button"
            aria-label={name}
            aria-haspopup="menu"
            aria-expanded={isOpen}
            data-on={isOn}
          >
            <Icon size={18} aria-hidden />
            <ChevronRight size={9} aria-hidden className="kinds-mark" />
          </button>
        </ActionTip>
      </span>
    </Dropdown>
  );
}

const KeyOf = ({ input }: { readonly input: string | undefined }): ReactElement | null =>
  input === undefined ? null : <KeyCaps keyName={input} />;
