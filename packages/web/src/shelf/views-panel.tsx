import { Button, Dropdown, Empty, Input } from 'antd';
import { BookmarkPlus, MoreVertical, Undo2 } from 'lucide-react';
import { useState, type DragEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { CardDto } from '@gull-pane/protocol/cards';
import { keepViewAction } from '../actions/card-actions';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { differences, type Restores } from '../store/cards-store';
import { shownNow } from '../store/pane-shows';
import { inGroups } from './card-groups';
import './views.css';

/** Views that are kept, with pictures: go to one, find it, put them in order, say what differs. */
export function ViewsPanel({ target }: { readonly target: ActionTarget }): ReactElement {
  const { cards, deleted } = useStore(target.cards);
  const [wanted, setWanted] = useState('');
  const groups = inGroups(cards ?? [], wanted);
  const last = deleted.at(-1);
  return (
    <div className="views">
      <div className="views-head">
        <ActionTip
          name={keepViewAction.name}
          sentence={keepViewAction.sentence}
          actionId={keepViewAction.id}
          placement="bottom"
        >
          <Button
            size="small"
            type="primary"
            icon={<BookmarkPlus size={14} aria-hidden />}
            onClick={() => keepViewAction.run(target)}
          >
            Keep this view
          </Button>
        </ActionTip>
        {last && (
          <Button
            size="small"
            icon={<Undo2 size={14} aria-hidden />}
            onClick={() => void target.cards.getState().undoRemove()}
          >
            Undo delete
          </Button>
        )}
      </div>
      {cards !== null && cards.length > 3 && (
        <Input
          size="small"
          allowClear
          aria-label="Search the views"
          placeholder={`Search ${cards.length} views`}
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      )}
      {cards?.length === 0 && (
        <Empty
          image={Empty.PRESENTED_IMAGE_SIMPLE}
          description="No view is kept yet. A card brings back where you look, how, and what is hidden."
        />
      )}
      {cards !== null && cards.length > 0 && groups.length === 0 && <p className="muted">No view has such a name.</p>}
      {groups.map(({ name, cards: own }) => (
        <section key={name} aria-label={name === '' ? 'Views' : `Views, ${name}`}>
          {name !== '' && <h2>{name}</h2>}
          <ul>
            {own.map((card) => (
              <Card key={card.id} target={target} card={card} />
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

const DRAGGED = 'application/x-view-card';

function Card({ target, card }: { readonly target: ActionTarget; readonly card: CardDto }): ReactElement {
  const { cards } = target;
  const isCurrent = useStore(cards, (state) => state.current === card.id);
  const [edits, setEdits] = useState<'name' | 'group' | null>(null);
  const [isOver, setOver] = useState(false);
  const { restore, update, remove, change, move } = cards.getState();
  const go = (what: Restores) => () => restore(card.id, what);
  const drop = (event: DragEvent): void => {
    setOver(false);
    const id = event.dataTransfer.getData(DRAGGED);
    if (id !== '' && id !== card.id) void move(id, card.id);
  };
  return (
    <li
      className="view-card"
      aria-label={card.name}
      data-current={isCurrent}
      data-over={isOver}
      draggable={edits === null}
      onDragStart={(event) => event.dataTransfer.setData(DRAGGED, card.id)}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(DRAGGED)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <button type="button" className="view-go" aria-label={`Go to ${card.name}`} onClick={go('all')}>
        {card.picture === '' ? <span className="view-blank" /> : <img src={card.picture} alt="" draggable={false} />}
      </button>
      <div className="view-row">
        {edits === null ? (
          <span className="view-name" title={card.name} onDoubleClick={() => setEdits('name')}>
            {card.name}
          </span>
        ) : (
          <Input
            size="small"
            autoFocus
            maxLength={120}
            aria-label={edits === 'name' ? 'Name of the view' : 'Group of the view'}
            defaultValue={edits === 'name' ? card.name : card.group}
            onKeyDown={(event) => {
              if (event.key !== 'Escape') return;
              event.stopPropagation();
              setEdits(null);
            }}
            onPressEnter={(event) => event.currentTarget.blur()}
            onBlur={(event) => {
              const text = event.target.value.trim();
              setEdits(null);
              if (edits === 'group' ? text !== card.group : text !== '' && text !== card.name)
                void change(card.id, { [edits]: text });
            }}
          />
        )}
        <Dropdown
          trigger={['click']}
          menu={{
            items: [
              { key: 'camera', label: 'Go there, looks as they are', onClick: go('camera') },
              { key: 'looks', label: 'Take its looks, stay here', onClick: go('looks') },
              { type: 'divider' },
              { key: 'update', label: 'Set to the view as it is', onClick: () => void update(card.id) },
              { key: 'name', label: 'Rename', onClick: () => setEdits('name') },
              {
                key: 'group',
                label: card.group === '' ? 'Put in a group' : 'Change its group',
                onClick: () => setEdits('group'),
              },
              { key: 'last', label: 'Move to the end', onClick: () => void move(card.id, null) },
              { type: 'divider' },
              { key: 'delete', label: 'Delete', danger: true, onClick: () => void remove(card.id) },
            ],
          }}
        >
          <button type="button" className="icon-button" aria-label={`More for ${card.name}`}>
            <MoreVertical size={15} aria-hidden />
          </button>
        </Dropdown>
      </div>
      {isCurrent && <Differences target={target} card={card} />}
    </li>
  );
}

/** What has changed since the card was gone to. */
function Differences({ target, card }: { readonly target: ActionTarget; readonly card: CardDto }): ReactElement {
  const { pane, drawing, clips } = target;
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const isFlying = useStore(pane, (state) => state.isFlying);
  useStore(pane, (state) => state.look);
  useStore(pane, (state) => state.kinds);
  useStore(drawing, (state) => state.hidden);
  useStore(drawing, (state) => state.hiddenObjects);
  useStore(clips, (state) => state.volumes);
  if (isFlying) return <p className="view-differs muted">Going there …</p>;
  const told = differences(card, camera, viewport, shownNow(target));
  return (
    <p className="view-differs muted" role="note" aria-label="What differs">
      {told.length === 0 ? 'The pane shows just this' : `Differs: ${told.join(', ')}`}
    </p>
  );
}
