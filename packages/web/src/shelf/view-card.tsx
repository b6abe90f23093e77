import { useEffect, useMemo, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import type { ViewPart } from '@gull-pane/core/view/view';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { Parts } from '../actions/action';
import { fittingCamera, keyOfVersion } from '../store/cards-store';
import { shownFromDto } from '../wire/view-dto';
import { viewDifferences } from '../words/view-differences';
import { CardFrame } from './card-frame';
import { movesOf } from './moves-of';

/** One view that is kept: its picture goes there, the rest is in its menu. */
export function ViewCard({
  target,
  card,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'cards'>;
  readonly card: CardDto;
}): ReactElement {
  const { cards } = target;
  const isCurrent = useStore(cards, (state) => state.current === card.id);
  const [edits, setEdits] = useState<'name' | 'group' | null>(null);
  const { restore, update, remove, change, move } = cards.getState();
  const go = (part: ViewPart) => () => restore(card.id, part);
  const done = (text: string | null): void => {
    setEdits(null);
    if (edits === null || text === null || text === card[edits] || (edits === 'name' && text === '')) return;
    void change(card.id, { [edits]: text });
  };
  const label = edits === 'name' ? 'Name of the view' : 'Group of the view';
  return (
    <CardFrame
      item={card}
      kind="view"
      isCurrent={isCurrent}
      goName={`Go to ${card.name}`}
      onGo={go('all')}
      onDropped={(id) => void move(id, card.id)}
      field={edits && { label, value: card[edits], onDone: done }}
      onRename={() => setEdits('name')}
      menu={[
        { key: 'camera', label: 'Go there, looks as they are', onClick: go('place') },
        { key: 'looks', label: 'Take its looks, stay here', onClick: go('looks') },
        { type: 'divider' },
        { key: 'update', label: 'Update to this view', onClick: () => void update(card.id) },
        { key: 'name', label: 'Rename', onClick: () => setEdits('name') },
        {
          key: 'group',
          label: card.group === '' ? 'Put in a group' : 'Change its group',
          onClick: () => setEdits('group'),
        },
        ...movesOf(cards.getState().cards ?? [], card.id, move),
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
function Differences({
  target,
  card,
}: {
  readonly target: Parts<'pane' | 'drawing'>;
  readonly card: CardDto;
}): ReactElement {
  const { pane, drawing } = target;
  const content = useStore(drawing);
  const { camera, shown, viewport, isFlying } = useStore(
    pane,
    useShallow(({ camera, shown, viewport, isFlying }) => ({ camera, shown, viewport, isFlying })),
  );
  // a set of hidden objects is read once, not whenever the camera moves
  const kept = useMemo(() => shownFromDto(card.shows, content, shown), [card.shows, content, shown]);
  if (isFlying) return <p className="view-differs muted">Going there …</p>;
  const told = viewDifferences({ camera, shown }, { camera: fittingCamera(card, viewport), shown: kept });
  return (
    <p className="view-differs muted" role="note" aria-label="What differs">
      {told.length === 0 ? 'The pane shows just this' : `Differs: ${told.join(', ')}`}
    </p>
  );
}

/** Of a drawing that has come in anew: whether what lies in the card's frame is another. */
function ContentNote({
  target: { cards, drawing },
  card,
}: {
  readonly target: Parts<'drawing' | 'cards'>;
  readonly card: CardDto;
}) {
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
