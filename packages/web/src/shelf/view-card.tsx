import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { ActionTarget } from '../actions/action';
import { differences, keyOfVersion, type Restores } from '../store/cards-store';
import { shownNow } from '../store/pane-shows';
import { CardFrame } from './card-frame';

/** One view that is kept: its picture goes there, the rest is in its menu. */
export function ViewCard({ target, card }: { readonly target: ActionTarget; readonly card: CardDto }): ReactElement {
  const { cards } = target;
  const isCurrent = useStore(cards, (state) => state.current === card.id);
  const [edits, setEdits] = useState<'name' | 'group' | null>(null);
  const { restore, update, remove, change, move } = cards.getState();
  const go = (what: Restores) => () => restore(card.id, what);
  const done = (text: string | null): void => {
    setEdits(null);
    if (edits === null || text === null || text === card[edits] || (edits === 'name' && text === '')) return;
    void change(card.id, { [edits]: text });
  };
  const label = edits === 'name' ? 'Name of the view' : 'Group of the view';
  return (
    <CardFrame
      item={card}
      dragged="application/x-view-card"
      isCurrent={isCurrent}
      goName={`Go to ${card.name}`}
      onGo={go('all')}
      onDropped={(id) => void move(id, card.id)}
      field={edits && { label, value: card[edits], onDone: done }}
      onRename={() => setEdits('name')}
      menu={[
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
      ]}
    >
      <ContentNote target={target} card={card} />
      {isCurrent && <Differences target={target} card={card} />}
      {isCurrent && <Comments card={card} />}
    </CardFrame>
  );
}

/** What was written about it in another program. */
function Comments({ card: { comments = [] } }: { readonly card: CardDto }): ReactElement | null {
  if (comments.length === 0) return null;
  return (
    <ul aria-label="Comments">
      {comments.map(({ author, date, text }) => (
        <li key={`${date} ${text}`} className="view-comment">
          <strong>{author}</strong> <span className="muted">{date.slice(0, 10)}</span> {text}
        </li>
      ))}
    </ul>
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

/** Of a drawing that has come in anew: whether what lies in the card's frame is another. */
function ContentNote({ target: { cards, drawing }, card }: { readonly target: ActionTarget; readonly card: CardDto }) {
  const revision = useStore(drawing, (state) => state.drawing.revision);
  const isOther = card.shows.content !== undefined && card.shows.revision !== revision;
  useEffect(() => {
    if (isOther) void cards.getState().compare(card.id);
  }, [cards, card.id, card.version, isOther]);
  const hasChanged = useStore(cards, (state) => state.changed.get(keyOfVersion(card)));
  if (!isOther || hasChanged === undefined) return null;
  return (
    <p className="view-differs" data-changed={hasChanged} role="note" aria-label="Content">
      {hasChanged ? 'The content here has changed since' : 'The content here is as it was'}
    </p>
  );
}
