import { Dropdown, type MenuProps } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ScreenPoint } from '@gull-pane/core/camera/camera';
import { canRun, isFor, type Action, type ActionTarget } from '../actions/action';
import { furtherMenus, menuRows } from '../actions/all-actions';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { likeliestAct } from '../tools/tool-units';
import './short-menu.css';

/** Half a row: so the first one lies under the pointer, and a second right click there does it. */
const HALF_ROW_PX = 20;
/** How high the menu is: where less is left below, it opens upwards, its first row at the bottom. */
const HEIGHT_PX = 350;

/** The menu of the right button: the likeliest next act first, then what can be done with the view. */
export function ShortMenu({ target }: { readonly target: ActionTarget }): ReactElement | null {
  const at = useStore(target.ui, (state) => state.menuAt);
  return at && <OpenMenu target={target} at={at} />;
}

function OpenMenu({ target, at }: { readonly target: ActionTarget; readonly at: ScreenPoint }): ReactElement {
  const bindings = useBindings();
  useStore(target.tools, (state) => state.states); // what is likely changes with what a tool holds
  const isUpwards = useStore(target.pane, ({ viewport }) => at.y > viewport.heightPx - HEIGHT_PX && at.y > HEIGHT_PX);
  const items = ((): MenuProps['items'] => {
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
        canRun(action, target),
      );
    const first = likeliestAct(target);
    const rows = [
      row('likeliest', first.name, first.keyName, first.run),
      { key: 'gap', type: 'divider' as const },
      ...menuRows.map(rowOf),
      { key: 'further', type: 'divider' as const },
      ...furtherMenus
        .map(({ name, actions }) => ({ name, actions: actions.filter((action) => isFor(action, target)) }))
        .filter(({ actions }) => actions.length > 0)
        .map(({ name, actions }) => ({ key: name, label: name, children: actions.map(rowOf) })),
    ];
    return isUpwards ? rows.reverse() : rows;
  })();
  return (
    <Dropdown
      open
      autoFocus
      trigger={[]}
      placement={isUpwards ? 'topLeft' : 'bottomLeft'}
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
        style={{ left: at.x - 24, top: isUpwards ? at.y + HALF_ROW_PX : at.y - HALF_ROW_PX }}
      />
    </Dropdown>
  );
}
