import { marksMenuAction, measureMenuAction, planeMenuAction } from '../actions/kinds-actions';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { isFor, type Action, type ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { railGroups } from '../actions/all-actions';
import { distanceAction, measureActions } from '../actions/collect-actions';
import { markActions } from '../actions/mark-actions';
import { planeActions } from '../actions/plane-actions';
import { KindsMenu } from './kinds-menu';
import './kinds-menu.css';
import './tool-rail.css';

const menus = [
  { menu: 'measure', opener: measureMenuAction, actions: measureActions, ownButton: distanceAction.id },
  { menu: 'marks', opener: marksMenuAction, actions: markActions },
] as const;

/** The vertical strip of tools and moves beside the panes; no button ever changes its meaning. */
export function ToolRail({ target }: { readonly target: ActionTarget }): ReactElement {
  const isSolid = target.drawing.getState().solid !== null;
  return (
    <nav className="tool-rail" aria-label="Tools">
      <div className="tool-group">
        <RailButton action={distanceAction} target={target} />
        {menus.map((menu) => (
          <KindsMenu key={menu.menu} target={target} {...menu} />
        ))}
        {isSolid && <KindsMenu target={target} menu="plane" opener={planeMenuAction} actions={planeActions} />}
      </div>
      {groupsFor(target).map((group) => (
        <div key={group[0]!.id} className="tool-group">
          {group.map((action) => (
            <RailButton key={action.id} action={action} target={target} />
          ))}
        </div>
      ))}
    </nav>
  );
}

const groupsFor = (target: ActionTarget): readonly (readonly Action[])[] =>
  railGroups[target.drawing.getState().drawing.kind]
    .map((group) => group.filter((action) => isFor(action, target)))
    .filter((group) => group.length > 0);

function RailButton({ action, target }: { readonly action: Action; readonly target: ActionTarget }): ReactElement {
  const canBeDone = (): boolean => action.isEnabled?.(target) ?? true;
  const isEnabled = [useStore(target.pane, canBeDone), useStore(target.picked, canBeDone)].every(Boolean);
  const isToolOn = useStore(target.tools, () => action.isOn?.(target));
  const isPaneOn = useStore(target.pane, () => action.isOn?.(target));
  const isOn = (useStore(target.picks, () => action.isOn?.(target)) ?? isToolOn) || isPaneOn;
  const Icon = action.icon;
  return (
    <ActionTip name={action.name} sentence={action.sentence} actionId={action.id}>
      <button
        type="button"
        className="icon-button"
        aria-label={action.name}
        aria-pressed={isOn}
        aria-disabled={!isEnabled}
        data-off={!isEnabled}
        onClick={() => {
          if (isEnabled) action.run(target);
        }}
      >
        <Icon size={18} aria-hidden />
      </button>
    </ActionTip>
  );
}
