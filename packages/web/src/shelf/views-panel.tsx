import { Button, Input } from 'antd';
import { BookmarkPlus, Undo2 } from 'lucide-react';
import { useMemo, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { CardDto } from '@gull-pane/protocol/cards';
import { keepViewAction } from '../actions/card-actions';
import { LongList } from '../controls/long-list';
import { NothingYet } from '../controls/nothing-yet';
import type { Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { grouped } from '../basics/figures';
import { inGroups } from './card-groups';
import { ViewCard } from './view-card';
import { ViewsExchange } from './views-exchange';
import './views.css';

/** Views that are kept, with pictures: go to one, find it, put them in order, say what differs. */
export function ViewsPanel({ target }: { readonly target: Parts<'pane' | 'drawing' | 'cards'> }): ReactElement {
  const { cards, undoes } = useStore(target.cards);
  const [wanted, setWanted] = useState('');
  const rows = useMemo(() => rowsOf(cards ?? [], wanted), [cards, wanted]);
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
        <ViewsExchange target={target} />
        {undoes !== null && (
          <Button
            size="small"
            icon={<Undo2 size={14} aria-hidden />}
            onClick={() => void target.cards.getState().undo()}
          >
            Undo {undoes}
          </Button>
        )}
      </div>
      {cards !== null && cards.length > 3 && (
        <Input
          size="small"
          allowClear
          aria-label="Search the views"
          placeholder={`Search ${grouped(cards.length)} views`}
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      )}
      {cards?.length === 0 && (
        <NothingYet>No view is kept yet. A card brings back the camera, the looks and what is hidden.</NothingYet>
      )}
      {cards !== null && cards.length > 0 && rows.length === 0 && <p className="muted">No view has such a name.</p>}
      <LongList
        label="Views"
        className="view-list"
        haveOwnRoles
        rows={rows}
        keyOf={({ key }) => key}
        guessPx={(row) => ('card' in row ? GUESSED_PX.card : GUESSED_PX.heading)}
      >
        {(row) =>
          'card' in row ? <ViewCard target={target} card={row.card} /> : <h2 role="listitem">{row.heading}</h2>
        }
      </LongList>
    </div>
  );
}

type Row = { readonly key: string; readonly heading: string } | { readonly key: string; readonly card: CardDto };

const rowsOf = (cards: readonly CardDto[], wanted: string): readonly Row[] =>
  inGroups(cards, wanted).flatMap(({ name, cards: own }): Row[] => [
    ...(name === '' ? [] : [{ key: `group ${name}`, heading: name }]),
    ...own.map((card) => ({ key: card.id, card })),
  ]);

/** So high a card and a heading are before they were measured, CSS px. */
const GUESSED_PX = { card: 186, heading: 30 } as const;
