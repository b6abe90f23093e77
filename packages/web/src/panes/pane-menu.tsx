import { MoreHorizontal } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/shallow';
import { canRun, type Action, type ActionTarget } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { keepViewAction } from '../actions/card-actions';
import {
  closePaneAction,
  fillAreaAction,
  overviewAction,
  ownWindowAction,
  splitAction,
  splitBelowAction,
} from '../actions/pane-actions';
import { isBetween } from '../store/panes-store';
import type { MenuItems } from '../controls/drop-menu';
import { MenuButton } from '../controls/menu-button';
import { NamesPane } from './pane-name-text';
import { otherPanes, paneName } from './pane-names';

/** What can be done with a pane, at the end of its foot. */
export function PaneMenu({ target }: { readonly target: ActionTarget }): ReactElement {
  const { panes, pane } = target;
  const bindings = useBindings();
  const state = useStore(
    panes,
    useShallow(({ tiling, apart, filled, ties }) => ({ tiling, apart, filled, ties })),
  );
  const { id } = pane.getState();
  const others = otherPanes(state, id);
  const row = (action: Action, name = action.name) => {
    const key = shownKey(bindings[action.id] ?? []);
    return {
      key: action.id,
      disabled: !canRun(action, target),
      label: (
        <span className="menu-row">
          {name}
          {key !== undefined && <KeyCaps keyName={key} />}
        </span>
      ),
      onClick: () => action.run(target),
    };
  };
  const withEach = (key: string, label: string, act: (other: string) => void, from = others) => ({
    key,
    label,
    children: from.map((other) => ({
      key: `${key} ${other}`,
      label: (
        <NamesPane panes={panes} pane={other}>
          {capital(paneName(state, other))}
        </NamesPane>
      ),
      onClick: () => {
        panes.getState().setNamed(null);
        act(other);
      },
    })),
  });
  const untied = others.filter((other) => !state.ties.some((tie) => isBetween(tie, id, other)));
  const { copyView, swap, tie } = panes.getState();
  const items: MenuItems = [
    row(keepViewAction),
    row(overviewAction),
    { type: 'divider' },
    row(splitAction),
    row(splitBelowAction),
    row(fillAreaAction, state.filled === null ? fillAreaAction.name : 'Back among the others'),
    row(ownWindowAction),
    row(closePaneAction),
    ...(others.length === 0
      ? []
      : [
          { type: 'divider' as const },
          withEach('copy', 'Copy view to', (other) => copyView(id, other)),
          withEach(
            'swap',
            'Swap with',
            (other) => swap(id, other),
            others.filter((other) => !state.apart.includes(other)),
          ),
          ...(untied.length === 0
            ? []
            : [
                withEach(
                  'tie',
                  'Tie to',
                  (other) => tie(id, other, { place: true, scale: true, direction: 'free' }),
                  untied,
                ),
              ]),
        ]),
  ];
  return (
    <MenuButton
      className="foot-button"
      label="More for this pane"
      placement="topRight"
      tip={{
        name: 'This pane',
        sentence: 'Keep its view, split it, fill the area, copy, swap, tie.',
        placement: 'top',
      }}
      items={items}
    >
      <MoreHorizontal size={15} aria-hidden />
    </MenuButton>
  );
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
