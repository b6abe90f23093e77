import { Input } from 'antd';
import { MoreVertical } from 'lucide-react';
import { useState, type DragEvent, type ReactElement, type ReactNode } from 'react';
import type { MenuItems } from '../controls/drop-menu';
import { MenuButton } from '../controls/menu-button';
import './views.css';

/** A text of a card that is changed where it stands. */
interface CardField {
  readonly label: string;
  readonly value: string;
  /** @param text without blanks round it; null if it was given up */
  readonly onDone: (text: string | null) => void;
}

interface CardFrameProps {
  readonly item: { readonly id: string; readonly name: string; readonly picture: string };
  /** Tells cards of one list from those of others, while they are dragged. */
  readonly dragged: string;
  readonly isCurrent: boolean;
  /** What pressing the picture does. */
  readonly goName: string;
  readonly onGo: () => void;
  /** Another card of the list was dropped on this one. */
  readonly onDropped: (id: string) => void;
  readonly field: CardField | null;
  readonly onRename: () => void;
  readonly menu: MenuItems;
  readonly children?: ReactNode;
}

/** Something that is kept: a picture to press, its name to change, a menu; dragged to another place in its list. */
export function CardFrame(props: CardFrameProps): ReactElement {
  const { item, dragged, isCurrent, goName, onGo, onDropped, field, onRename, menu, children } = props;
  const { id, name, picture } = item;
  const [isOver, setOver] = useState(false);
  const drop = (event: DragEvent): void => {
    setOver(false);
    const other = event.dataTransfer.getData(dragged);
    if (other !== '' && other !== id) onDropped(other);
  };
  return (
    <div
      className="view-card"
      role="listitem"
      aria-label={name}
      data-current={isCurrent}
      data-over={isOver}
      draggable={field === null}
      onDragStart={(event) => event.dataTransfer.setData(dragged, id)}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(dragged)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <button type="button" className="view-go" aria-label={goName} onClick={onGo}>
        {picture === '' ? (
          <span className="view-blank" />
        ) : (
          <img src={picture} alt="" draggable={false} loading="lazy" />
        )}
      </button>
      <div className="view-row">
        {field ? (
          <FieldInput key={field.label} field={field} />
        ) : (
          <span className="view-name" title={name} onDoubleClick={onRename}>
            {name}
          </span>
        )}
        <MenuButton className="icon-button" label={`More for ${name}`} items={menu}>
          <MoreVertical size={15} aria-hidden />
        </MenuButton>
      </div>
      {children}
    </div>
  );
}

function FieldInput({ field: { label, value, onDone } }: { readonly field: CardField }): ReactElement {
  return (
    <Input
      size="small"
      autoFocus
      maxLength={120}
      aria-label={label}
      defaultValue={value}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onDone(null);
      }}
      onPressEnter={(event) => event.currentTarget.blur()}
      onBlur={(event) => onDone(event.target.value.trim())}
    />
  );
}
