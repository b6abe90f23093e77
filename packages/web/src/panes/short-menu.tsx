import { Dropdown, type MenuProps } from 'antd';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ScreenPoint } from '@gull-pane/core/camera/camera';
import { canRun, isFor, type Action, type ActionTarget } from '../actions/action';
import { furtherMenus, menuRows } from '../actions/all-actions';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { toolInHand } from '../store/tool-store';
import { likeliestAct } from '../tools/tool-units';
import './short-menu.css';

/** Half a row: so the first one lies under the pointer, and a second right click there does it. */
const HALF_ROW_PX = 20;
/** The menu is never higher: where less is left in the window below, it opens upwards, its first row at the bottom. */
const HEIGHT_PX = 330;

/** The menu of the right button: the likeliest next act first, then what can be done with the view. */
export function ShortMenu({ target }: { readonly target: ActionTarget }): ReactElement | null {
  const at = useStore(target.ui, (state) => state.menuAt);
  return at && <OpenMenu target={target} at={at} />;
}

function OpenMenu({ target, at }: { readonly target: ActionTarget; readonly at: ScreenPoint }): ReactElement {
  const bindings = useBindings();
  useStore(target.tools, (state) => state.states); // what is likely changes with what a tool holds
  const [top] = useState(() => topOf(target.pane.getState().id));
  const isUpwards = top + at.y + HEIGHT_PX > window.innerHeight;
  const items = ((): MenuProps['items'] => {
    const close = (): void => target.ui.getState().set({ menuAt: null });
    const row = (
      key: string,
      name: string,
      keyName: string | undefined,
      run: () => void,
      { isEnabled = true, isOn = false }: { readonly isEnabled?: boolean; readonly isOn?: boolean } = {},
    ) => ({
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
          <span>
            {name}
            {isOn && <span className="menu-on"> · on</span>}
          </span>
          {keyName !== undefined && <KeyCaps keyName={keyName} />}
        </span>
      ),
      onClick: () => {
        close();
        run();
      },
    });
    const rowOf = (action: Action) =>
      row(action.id, action.name, shownKey(bindings[action.id] ?? []), () => action.run(target, at), {
        isEnabled: canRun(action, target),
        isOn: action.isOn?.(target) === true,
      });
    const further = ({ name, actions }: { readonly name: string; readonly actions: readonly Action[] }) => {
      const own = actions.filter((action) => isFor(action, target));
      return own.length > 0 ? [{ key: name, label: name, children: own.map(rowOf) }] : [];
    };
    const first = likeliestAct(target);
    const rows = [
      row('likeliest', first.name, first.keyName, first.run),
      { key: 'gap', type: 'divider' as const },
      ...rowsFor(target).map(rowOf),
      { key: 'further', type: 'divider' as const },
      ...furtherMenus
        .map(({ name, menus }) => ({ key: name, label: name, children: menus.flatMap(further) }))
        .filter(({ children }) => children.length > 0),
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
        style={{ left: at.x - 24, top: isUpwards ? Math.max(at.y + HALF_ROW_PX, HEIGHT_PX - top) : at.y - HALF_ROW_PX }}
      />
    </Dropdown>
  );
}

/** Where a pane begins in the window, CSS px. */
const topOf = (pane: string): number =>
  document.querySelector(`[data-pane="${pane}"] .pane-surface`)?.getBoundingClientRect().top ?? 0;

function rowsFor(target: ActionTarget): readonly Action[] {
  if (toolInHand(target.tools.getState()) !== null) return menuRows.tool;
  const first = likeliestAct(target).name;
  return menuRows[target.picked.getState().picked.size > 0 ? 'picked' : 'idle'].filter(({ name }) => name !== first);
}
