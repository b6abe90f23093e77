import { ChevronDown } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { panesOf } from '@gull-pane/core/panes/tiling';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { api } from '../api/client';
import type { Parts } from '../actions/action';
import type { MenuItems } from '../controls/drop-menu';
import { useDragged } from '../controls/drag';
import { MenuButton } from '../controls/menu-button';
import type { Session } from '../session/session';

interface SwitcherProps {
  readonly session: Session;
  readonly target: Parts<'drawing'>;
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
  const items: MenuItems = [
    ...others
      .filter(({ revision }) => revision > 0)
      .map(({ id, name }) => ({
        key: id,
        label: (
          <DrawingRow id={id} onDragEnd={() => setOpen(false)}>
            {name}
          </DrawingRow>
        ),
        onClick: () => open(id),
      })),
    { type: 'divider' },
    { key: 'all', label: 'All drawings', onClick: () => void navigate('/') },
  ];
  const [isOpen, setOpen] = useState(false);
  // not before the list is there: rows that came later would take the focus from the one that has it
  const openListed = async (): Promise<void> => {
    setOthers(await api.drawings().catch(() => [])); // without the list, the way to all drawings is still there
    setOpen(true);
  };
  return (
    <MenuButton
      className="drawing-switcher"
      label={drawing.name}
      tip={{
        name: drawing.name,
        sentence: 'Opens another drawing in the active pane; a row can be dragged to any pane.',
        placement: 'bottom',
      }}
      items={items}
      selected={[drawing.id]}
      isOpen={isOpen}
      onOpenChange={(open) => (open ? void openListed() : setOpen(false))}
    >
      <span className="drawing-name">{drawing.name}</span>
      <ChevronDown size={16} aria-hidden />
    </MenuButton>
  );
}

/** A row that can be dragged to a pane. */
function DrawingRow({
  id,
  onDragEnd,
  children,
}: {
  readonly id: string;
  readonly onDragEnd: () => void;
  readonly children: string;
}): ReactElement {
  return (
    <span className="drawing-row" ref={useDragged('drawing', id, onDragEnd)}>
      {children}
    </span>
  );
}
