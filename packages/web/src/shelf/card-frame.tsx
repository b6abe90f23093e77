import { Input } from 'antd';
import { MoreVertical } from 'lucide-react';
import { useMemo, type ReactElement, type ReactNode } from 'react';
import { bothRefs, useDragged, useDropPlace } from '../controls/drag';
import type { DragKind } from '../controls/dragged';
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
  /** What is dragged where the card is. */
  readonly kind: DragKind;
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
  const { item, kind, isCurrent, goName, onGo, onDropped, field, onRename, menu, children } = props;
  const { id, name, picture } = item;
  const draggedRef = useDragged(kind, id);
  const { ref: placeRef, isOver } = useDropPlace(kind, (other) => {
    if (other.id !== id) onDropped(other.id);
  });
  const ref = useMemo(() => bothRefs(draggedRef, placeRef), [draggedRef, placeRef]);
  return (
    <div ref={ref} className="view-card" role="listitem" aria-label={name} data-current={isCurrent} data-over={isOver}>
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
