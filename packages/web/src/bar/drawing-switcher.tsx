import { Dropdown, type MenuProps } from 'antd';
import { ChevronDown } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { panesOf } from '@gull-pane/core/panes/tiling';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { api } from '../api/client';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import type { Session } from '../session/session';

interface SwitcherProps {
  readonly session: Session;
  readonly target: ActionTarget;
}

/** The name of the active pane's drawing; pressed, it lists the others: one that is chosen takes its place. */
export function DrawingSwitcher({ session, target }: SwitcherProps): ReactElement {
  const navigate = useNavigate();
  const { drawing } = useStore(target.drawing);
  const open = (id: string): void => {
    const { tiling, active } = session.panes.getState();
    if (panesOf(tiling).length < 2) void navigate(`/d/${id}`);
    else void session.openIn(active, id);
  };
  const [others, setOthers] = useState<readonly DrawingDto[]>([]);
  const items: MenuProps['items'] = [
    ...others
      .filter(({ revision }) => revision > 0)
      .map(({ id, name }) => ({ key: id, label: name, onClick: () => open(id) })),
    { type: 'divider' },
    { key: 'all', label: 'All drawings', onClick: () => void navigate('/') },
  ];
  const load = (isOpen: boolean): void => {
    if (!isOpen) return;
    api.drawings().then(setOthers, () => setOthers([])); // without the list, the way to all drawings is still there
  };
  return (
    <Dropdown menu={{ items, selectedKeys: [drawing.id] }} trigger={['click']} autoFocus onOpenChange={load}>
      {/* the tip takes only the handlers of its own child: a menu needs an element of its own around it */}
      <span className="drawing-switcher-place">
        <ActionTip name={drawing.name} sentence="Opens another drawing in the active pane." placement="bottom">
          <button type="button" className="drawing-switcher" aria-haspopup="menu">
            <span className="drawing-name">{drawing.name}</span>
            <ChevronDown size={16} aria-hidden />
          </button>
        </ActionTip>
      </span>
    </Dropdown>
  );
}
