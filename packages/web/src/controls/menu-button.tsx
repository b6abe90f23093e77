import { useRef, useState, type ReactElement, type ReactNode } from 'react';
import { ActionTip, type Tip } from '../actions/action-tip';
import type { MenuItems } from './drop-menu';
import { later } from './later';
import './menu-button.css';

const loadMenu = () => import('./drop-menu');
const DropMenu = later(async () => (await loadMenu()).DropMenu);

interface MenuButtonProps {
  readonly label: string;
  readonly className: string;
  /** Where the menu stands, seen from the button. */
  readonly placement?: 'bottomLeft' | 'bottomRight' | 'topRight';
  readonly items: MenuItems;
  /** The keys of the rows that are in force. */
  readonly selected?: readonly string[];
  readonly tip?: Tip;
  /** Whether it is open, where something else can open it too. */
  readonly isOpen?: boolean;
  readonly onOpenChange?: (isOpen: boolean) => void;
  /** Marks the button as in force. */
  readonly isOn?: boolean;
  readonly children: ReactNode;
}

/** A button that opens a menu, by mouse or keyboard. The menu's code is loaded on hover or focus. */
export function MenuButton(props: MenuButtonProps): ReactElement {
  const { label, className, placement = 'bottomLeft', items, selected = [], tip, isOn, children } = props;
  const [isOwnOpen, setOwnOpen] = useState(false);
  const isOpen = props.isOpen ?? isOwnOpen;
  const [wasOpened, setWasOpened] = useState(isOpen);
  if (isOpen && !wasOpened) setWasOpened(true);
  const setOpen = (open: boolean): void => (props.onOpenChange ?? setOwnOpen)(open);
  const button = useRef<HTMLButtonElement>(null);
  // the menu closes when the pointer goes down outside it, so also here: then the press that follows doesn't open it
  const wasOpenAtPress = useRef(false);
  const opener = (
    <button
      ref={button}
      type="button"
      className={className}
      aria-label={label}
      aria-haspopup="menu"
      aria-expanded={isOpen}
      data-on={isOn}
      onPointerEnter={() => void loadMenu()}
      onFocus={() => void loadMenu()}
      onPointerDown={() => (wasOpenAtPress.current = isOpen)}
      onClick={({ detail }) => setOpen(detail === 0 ? !isOpen : !wasOpenAtPress.current)}
    >
      {children}
    </button>
  );
  return (
    <span className="menu-button-place">
      {tip ? <ActionTip {...tip}>{opener}</ActionTip> : opener}
      {wasOpened && (
        <DropMenu
          {...{ isOpen, placement, items, selected }}
          onClose={() => setOpen(false)}
          onEscape={() => button.current?.focus()}
        />
      )}
    </span>
  );
}
