import { Button } from 'antd';
import { BookmarkPlus, Undo2 } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { panesOf } from '@gull-pane/core/panes/tiling';
import type { ArrangementHeadDto } from '@gull-pane/protocol/arrangements';
import { NothingYet } from '../controls/nothing-yet';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { arrangementPicture } from '../session/arrangement-picture';
import type { Session } from '../session/session';
import { useArrangements } from '../store/arrangements-store';
import { CardFrame } from './card-frame';
import { movesOf } from './moves-of';

interface KeptProps {
  readonly session: Session;
  readonly target: ActionTarget;
}

/** Arrangements that were kept, with pictures: all panes with everything that they showed. */
export function KeptArrangements({ session, target }: KeptProps): ReactElement {
  const { arrangements, undoes, keep, undo } = useArrangements();
  const pictured = (): string => arrangementPicture(session.panes.getState(), session.targetOf);
  return (
    <section className="kept-arrangements" aria-label="Kept arrangements">
      <div className="views-head">
        <ActionTip
          name="Keep this arrangement"
          sentence="All panes with what they show, how, their ties and their trails."
          placement="bottom"
        >
          <Button
            size="small"
            type="primary"
            icon={<BookmarkPlus size={14} aria-hidden />}
            onClick={() => void keep(suggestedName(session, target), session.arranged(), pictured())}
          >
            Keep this arrangement
          </Button>
        </ActionTip>
        {undoes !== null && (
          <Button size="small" icon={<Undo2 size={14} aria-hidden />} onClick={() => void undo()}>
            Undo {undoes}
          </Button>
        )}
      </div>
      {arrangements?.length === 0 && (
        <NothingYet>No arrangement is kept yet. An arrangement brings back all panes and what they show.</NothingYet>
      )}
      <div role="list" aria-label="Kept arrangements" className="kept-list">
        {arrangements?.map((arrangement) => (
          <Kept key={arrangement.id} session={session} arrangement={arrangement} pictured={pictured} />
        ))}
      </div>
    </section>
  );
}

/** “Site plan and pump hall, 4 panes”. */
function suggestedName({ panes, targetOf }: Session, target: ActionTarget): string {
  const ids = panesOf(panes.getState().tiling);
  const names = [target, ...ids.map(targetOf)].map(({ drawing }) => drawing.getState().drawing.name);
  const [first, second, ...more] = [...new Set(names)];
  const what = second === undefined ? first : `${first} and ${more.length > 0 ? 'others' : second}`;
  return `${what}, ${ids.length === 1 ? '1 pane' : `${ids.length} panes`}`.slice(0, 120);
}

interface KeptOneProps {
  readonly session: Session;
  readonly arrangement: ArrangementHeadDto;
  readonly pictured: () => string;
}

function Kept({ session, arrangement, pictured }: KeptOneProps): ReactElement {
  const { id, name } = arrangement;
  const isCurrent = useArrangements((state) => state.current === id);
  const { fetch, change, move, remove } = useArrangements.getState();
  const [isNamed, setNamed] = useState(false);
  const take = async (): Promise<void> => {
    const arranged = await fetch(id);
    if (arranged) await session.take(arranged);
  };
  const done = (text: string | null): void => {
    setNamed(false);
    if (text !== null && text !== '' && text !== name) void change(id, { name: text });
  };
  return (
    <CardFrame
      item={arrangement}
      kind="arrangement"
      isCurrent={isCurrent}
      goName={`Take ${name}`}
      onGo={() => void take()}
      onDropped={(other) => void move(other, id)}
      field={isNamed ? { label: 'Name of the arrangement', value: name, onDone: done } : null}
      onRename={() => setNamed(true)}
      menu={[
        {
          key: 'update',
          label: 'Update to these panes',
          onClick: () => void change(id, { arranged: session.arranged(), picture: pictured() }),
        },
        { key: 'name', label: 'Rename', onClick: () => setNamed(true) },
        ...movesOf(useArrangements.getState().arrangements ?? [], id, move),
        { type: 'divider' },
        { key: 'delete', label: 'Delete', danger: true, onClick: () => void remove(id) },
      ]}
    />
  );
}
