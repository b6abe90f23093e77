import { Ellipsis } from 'lucide-react';
import { useRef, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { isFor, type Action, type ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { railGroups, type RailGroup } from '../actions/all-actions';
import { distanceAction, measureActions } from '../actions/collect-actions';
import { railWordsAction } from '../actions/home-actions';
import { marksMenuAction, measureMenuAction, planeMenuAction } from '../actions/kinds-actions';
import { markActions } from '../actions/mark-actions';
import { planeActions } from '../actions/plane-actions';
import { useMedia } from '../controls/use-media';
import { useRoom } from '../controls/use-room';
import { IS_PHONE } from '../store/narrow-window';
import { HAS_ROOM_FOR_WORDS, usePreferences } from '../store/preferences-store';
import { KindsMenu } from './kinds-menu';
import { RailMenu } from './rail-menu';
import './tool-rail.css';

const menus = [
  { menu: 'measure', opener: measureMenuAction, actions: measureActions, ownButton: distanceAction.id },
  { menu: 'marks', opener: marksMenuAction, actions: markActions },
] as const;

/** What makes room on a low window, in this order: the groups' names, then groups become a button with a menu each. */
const LEAST_NEEDED = ['names', 'clip', 'twist', 'trail', 'turn', 'zoom', 'words'] as const;

/** The vertical strip of tools and moves beside the panes; no button ever changes its meaning. */
export function ToolRail({ target }: { readonly target: ActionTarget }): ReactElement {
  const isSolid = target.drawing.getState().solid !== null;
  const hasRoom = useMedia(HAS_ROOM_FOR_WORDS);
  const isSheet = useMedia(IS_PHONE);
  const hasOwnWords = usePreferences((state) => state.hasRailWords) ?? hasRoom;
  const hasWords = isSheet || hasOwnWords;
  const rail = useRef<HTMLElement>(null);
  useRoom(rail, LEAST_NEEDED, 'height');
  return (
    <nav
      ref={rail}
      className="tool-rail"
      aria-label="Tools"
      data-words={hasWords}
      data-sheet={isSheet}
      // a sheet makes way for what was chosen from it
      onClick={({ target: pressed }) => {
        const button = (pressed as Element).closest('button');
        if (isSheet && button && !button.hasAttribute('aria-haspopup'))
          usePreferences.getState().set({ isRailOpen: false });
      }}
    >
      <div className="tool-group" role="group" aria-label="Measure and mark">
        <span className="tool-group-name" aria-hidden>
          Tools
        </span>
        <RailButton action={distanceAction} target={target} />
        {menus.map((menu) => (
          <KindsMenu key={menu.menu} target={target} {...menu} />
        ))}
        {isSolid && <KindsMenu target={target} menu="plane" opener={planeMenuAction} actions={planeActions} />}
      </div>
      {railGroups[target.drawing.getState().drawing.kind].map((group) => (
        <Group key={group.id} group={group} target={target} />
      ))}
      <RailButton action={railWordsAction} target={target} />
    </nav>
  );
}

/** A group as buttons, rare actions in a menu; or all of it as one button with a menu, where the rail is low. */
function Group({ group, target }: { readonly group: RailGroup; readonly target: ActionTarget }): ReactElement {
  const { id, name, actions, rare = [] } = group;
  const own = actions.filter((action) => isFor(action, target));
  const further = rare.filter((action) => isFor(action, target));
  return (
    <div className="tool-group" role="group" aria-label={name} data-group={id}>
      <span className="tool-group-name" aria-hidden>
        {name}
      </span>
      {own.map((action) => (
        <RailButton key={action.id} action={action} target={target} />
      ))}
      {further.length > 0 && (
        <RailMenu
          target={target}
          icon={Ellipsis}
          actions={further}
          tip={{ name: `More: ${name.toLowerCase()}`, sentence: further.map((action) => action.name).join(', ') }}
        />
      )}
      <span className="tool-group-folded">
        <RailMenu
          target={target}
          icon={own[0]!.icon}
          actions={[...own, ...further]}
          tip={{ name, sentence: [...own, ...further].map((action) => action.name).join(', ') }}
        />
      </span>
    </div>
  );
}

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
        <span className="rail-word">{action.name}</span>
      </button>
    </ActionTip>
  );
}
