import { Button, Modal } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { useArrangements } from '../store/arrangements-store';
import './conflict.css';

interface Side {
  readonly name: string;
  readonly picture?: string | undefined;
  readonly told: readonly string[];
}

/** Two windows have changed the same thing: both versions, and a choice between them. */
export function ConflictDialog({ target }: { readonly target: Parts<'cards' | 'tours'> }): ReactElement | null {
  const ofCards = useStore(target.cards, (state) => state.conflicts);
  const ofTours = useStore(target.tours, (state) => state.conflicts);
  const ofArrangements = useArrangements((state) => state.conflicts);
  const [card, arrangement] = [ofCards[0], ofArrangements[0]];
  if (card) {
    const { theirs, mine } = card;
    const settle = (takesMine: boolean) => () => void target.cards.getState().settle(theirs.id, takesMine);
    return (
      <Choice
        what={`The view “${theirs.name}”`}
        theirs={{ name: theirs.name, picture: theirs.picture, told: groupTold(theirs.group) }}
        mine={{
          name: mine.name ?? theirs.name,
          picture: mine.picture ?? theirs.picture,
          told: [...groupTold(mine.group ?? theirs.group), ...changedInWords(mine)],
        }}
        settle={settle}
      />
    );
  }
  const [tour] = ofTours;
  if (tour) {
    const { theirs, mine } = tour;
    return (
      <Choice
        what={`The tour “${theirs.name}”`}
        theirs={{ name: theirs.name, told: [`${theirs.stops.length} stops`] }}
        mine={{
          name: mine.name ?? theirs.name,
          told: [`${(mine.stops ?? theirs.stops).length} stops`, ...changedInWords(mine)],
        }}
        settle={(takesMine) => () => void target.tours.getState().settle(theirs.id, takesMine)}
      />
    );
  }
  if (arrangement) {
    const { theirs, mine } = arrangement;
    const { settle } = useArrangements.getState();
    return (
      <Choice
        what={`The arrangement “${theirs.name}”`}
        theirs={{ name: theirs.name, picture: theirs.picture, told: [] }}
        mine={{ name: mine.name ?? theirs.name, picture: mine.picture ?? theirs.picture, told: changedInWords(mine) }}
        settle={(takesMine) => () => void settle(theirs.id, takesMine)}
      />
    );
  }
  return null;
}

const groupTold = (group: string): readonly string[] => (group === '' ? [] : [`in “${group}”`]);

function changedInWords(mine: object): readonly string[] {
  return [
    ...('name' in mine ? ['renamed here'] : []),
    ...('group' in mine ? ['put in this group here'] : []),
    ...('stops' in mine ? ['stops or times changed here'] : []),
    ...('position' in mine ? ['moved here'] : []),
    ...('camera' in mine || 'arranged' in mine ? ['set to what is shown here'] : []),
  ];
}

function Choice({
  what,
  theirs,
  mine,
  settle,
}: {
  readonly what: string;
  readonly theirs: Side;
  readonly mine: Side;
  readonly settle: (takesMine: boolean) => () => void;
}): ReactElement {
  return (
    <Modal
      open
      centered
      width={560}
      title={`${what} was changed in another window, too`}
      closable={false}
      keyboard={false}
      footer={null}
    >
      <p>Nothing is lost yet. Which of the two shall it be?</p>
      <div className="conflict">
        <Version title="From the other window" side={theirs} act="Keep theirs" onTake={settle(false)} />
        <Version title="From this window" side={mine} act="Make it mine" onTake={settle(true)} />
      </div>
    </Modal>
  );
}

function Version({
  title,
  side: { name, picture, told },
  act,
  onTake,
}: {
  readonly title: string;
  readonly side: Side;
  readonly act: string;
  readonly onTake: () => void;
}): ReactElement {
  return (
    <section aria-label={title} className="conflict-version">
      <h2>{title}</h2>
      {picture === undefined || picture === '' ? <span className="view-blank" /> : <img src={picture} alt="" />}
      <strong>{name}</strong>
      <p className="muted">{told.join(', ')}</p>
      <Button onClick={onTake}>{act}</Button>
    </section>
  );
}
