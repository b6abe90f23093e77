import { ChevronRight, type LucideIcon } from 'lucide-react';
import type { ReactElement } from 'react';
import { canRun, isFor, type Action, type ActionTarget } from '../actions/action';
import { KeyCaps, type Tip } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { MenuButton } from '../controls/menu-button';
import './rail-menu.css';

interface RailMenuProps {
  readonly target: ActionTarget;
  readonly tip: Tip;
  readonly icon: LucideIcon;
  readonly actions: readonly Action[];
  readonly className?: string;
  /** The action that is in force. */
  readonly selected?: string | null;
  readonly isOn?: boolean;
  readonly isOpen?: boolean;
  readonly onOpenChange?: (isOpen: boolean) => void;
}

/** A button of the rail that opens a menu of actions with their keys. */
export function RailMenu(props: RailMenuProps): ReactElement {
  const { target, tip, icon: Icon, actions, className = '', selected = null, ...rest } = props;
  const bindings = useBindings();
  return (
    <MenuButton
      {...rest}
      className={`icon-button rail-menu-button ${className}`}
      label={tip.name}
      tip={tip}
      selected={selected === null ? [] : [selected]}
      items={actions
        .filter((action) => isFor(action, target))
        .map((action) => ({
          key: action.id,
          icon: <action.icon size={16} aria-hidden />,
          disabled: rest.isOpen !== false && !canRun(action, target),
          label: (
            <span className="rail-menu-row" title={action.sentence}>
              {action.name}
              <KeyOf input={shownKey(bindings[action.id] ?? [])} />
            </span>
          ),
          onClick: () => action.run(target),
        }))}
    >
      <Icon size={18} aria-hidden />
      <span className="rail-word">{tip.name}</span>
      <ChevronRight size={9} aria-hidden className="rail-menu-mark" />
    </MenuButton>
  );
}

const KeyOf = ({ input }: { readonly input: string | undefined }): ReactElement | null =>
  input === undefined ? null : <KeyCaps keyName={input} />;
