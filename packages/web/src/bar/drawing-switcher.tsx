import { Dropdown, type MenuProps } from 'antd';
import { ChevronDown } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { api } from '../api/client';
import { ActionTip } from '../actions/action-tip';

/** The open drawing's name; pressed, it lists the others. */
export function DrawingSwitcher({ drawing }: { readonly drawing: DrawingDto }): ReactElement {
  const navigate = useNavigate();
  const [others, setOthers] = useState<readonly DrawingDto[]>([]);
  const items: MenuProps['items'] = [
    ...others
      .filter(({ revision }) => revision > 0)
      .map(({ id, name }) => ({ key: id, label: name, onClick: () => void navigate(`/d/${id}`) })),
    { type: 'divider' },
    { key: 'all', label: 'All drawings', onClick: () => void navigate('/') },
  ];
  const load = (isOpen: boolean): void => {
    if (!isOpen) return;
    api.drawings().then(setOthers, () => setOthers([])); // without the list, the way to all drawings is still there
  };
  return (
    <Dropdown menu={{ items, selectedKeys: [drawing.id] }} trigger={['click']} onOpenChange={load}>
      <ActionTip name={drawing.name} sentence="Open another drawing." placement="bottom">
        <button type="button" className="drawing-switcher">
          <span className="drawing-name">{drawing.name}</span>
          <ChevronDown size={16} aria-hidden />
        </button>
      </ActionTip>
    </Dropdown>
  );
}
