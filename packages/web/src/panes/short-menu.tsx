import { Dropdown, type MenuProps } from 'antd';
import { useMemo, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ScreenPoint } from '@gull-pane/core/camera/camera';
import type { Action, ActionTarget } from '../actions/action';
import { menuGroups } from '../actions/all-actions';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { likeliestAct } from '../tools/likeliest-act';
import './short-menu.css';

/** Half a row: so the first one lies under the pointer, and a second right click there does it. */
const HALF_ROW_PX = 18;

/** The menu of the right button: the likeliest next act first, then what can be done with the view. */
export function ShortMenu({ target }: { readonly target: ActionTarget }): ReactElement | null {
  const at = useStore(target.ui, (state) => state.menuAt);
  return at ? <OpenMenu target={target} at={at} /> : null;
}

function OpenMenu({ target, at }: { readonly target: ActionTarget; readonly at: ScreenPoint }): ReactElement {
  const bindings = useBindings();
  const items = useMemo((): MenuProps['items'] => {
    const close = (): void => target.ui.getState().set({ menuAt: null });
    const row = (key: string, name: string, keyName: string | undefined, run: () => void, isEnabled = true) => ({
      key,
      disabled: !isEnabled,
      label: (
        <span
          className="menu-row"
          onContextMenu={(event) => {
            event.preventDefault();
            close();
            run();
          }}
        >
          {name}
          {keyName !== undefined && <KeyCaps keyName={keyName} />}
        </span>
      ),
      onClick: () => {
        close();
        run();
      },
    });
    const rowOf = (action: Action) =>
      row(
        action.id,
        action.name,
        shownKey(bindings[action.id] ?? []),
        () => action.run(target, at),
        action.isEnabled?.(target) !== false,
      );
    const first = likeliestAct(target);
    return [
      row('likeliest', first.name, first.keyName, first.run),
      ...menuGroups.flatMap((group, index) => [{ key: `gap-${index}`, type: 'divider' as const }, ...group.map(rowOf)]),
    ];
  }, [bindings, target, at]);
  const height = target.pane.getState().viewport.heightPx;
  return (
    <Dropdown
      open
      autoFocus
      trigger={[]}
      placement="bottomLeft"
      autoAdjustOverflow={{ adjustX: 1, adjustY: 0 }}
      menu={{ items: items ?? [], className: 'short-menu' }}
      popupRender={(menu) => (
        <div
          onPointerDown={(event) => event.stopPropagation()}
          onWheel={(event) => event.stopPropagation()}
          onKeyDown={(event) => {
            if (event.key === 'Escape') target.ui.getState().set({ menuAt: null });
          }}
        >
          {menu}
        </div>
      )}
      onOpenChange={(open) => {
        if (!open) target.ui.getState().set({ menuAt: null });
      }}
      getPopupContainer={() => document.body}
    >
      <span
        className="menu-place"
        style={{ left: at.x - 24, top: Math.min(at.y - HALF_ROW_PX, Math.max(height - 40, 0)) }}
      />
    </Dropdown>
  );
}
