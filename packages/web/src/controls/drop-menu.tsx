import { Dropdown, type MenuProps } from 'antd';
import type { ReactElement } from 'react';

export type MenuItems = NonNullable<MenuProps['items']>;

interface DropMenuProps {
  readonly isOpen: boolean;
  readonly placement: 'bottomLeft' | 'bottomRight' | 'topRight';
  readonly items: MenuItems;
  readonly selected: readonly string[];
  readonly onClose: () => void;
  /** It was left without a choice, by a key. */
  readonly onEscape: () => void;
}

/** The menu of a button, beside an element that covers the button. */
export function DropMenu({ isOpen, placement, items, selected, onClose, onEscape }: DropMenuProps): ReactElement {
  return (
    <Dropdown
      open={isOpen}
      autoFocus
      trigger={['click']}
      placement={placement}
      menu={{
        items,
        selectedKeys: [...selected],
        onClick: onClose,
        className: 'button-menu',
        onKeyDown: (event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          onClose();
          onEscape();
        },
      }}
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
    >
      <span className="menu-anchor" aria-hidden />
    </Dropdown>
  );
}
