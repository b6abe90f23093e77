import { Button, Input } from 'antd';
import { Check, CircleHelp, Undo2 } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ChangeDto } from '@gull-pane/protocol/comparison';
import type { Parts } from '../actions/action';
import { goToCluster } from '../actions/change-actions';
import { grouped } from '../basics/figures';
import type { ComparisonState } from '../store/comparison-store';
import { clusterInWords, happenedTo, subjectOf } from '../words/change-words';

/** Of a cluster that is open so many changes are told one by one. */
const MOST_TOLD = 40;

interface ClusterProps {
  readonly target: Parts<'pane' | 'drawing' | 'comparison'>;
  readonly state: ComparisonState;
  readonly cluster: number;
  readonly changes: readonly ChangeDto[];
}

/** Changes that lie beside one another: framed as one, said of as one. */
export function ClusterRow({ target, state, cluster, changes }: ClusterProps): ReactElement {
  const { own, current } = state;
  const { unit } = useStore(target.drawing, (drawing) => drawing.drawing);
  const isCurrent = current === cluster;
  const [first] = changes;
  const said = [...new Set(changes.map(({ key }) => own.get(key)?.state ?? 'open'))];
  const layers = [...new Set(changes.map(({ layer }) => layer))].join(', ');
  const told = changes.length === 1 ? happenedTo(first!, unit) : clusterInWords(changes);
  return (
    <div className="change-cluster" data-current={isCurrent} data-said={said.length === 1 ? said[0] : 'open'}>
      <button
        type="button"
        className="change-go"
        aria-expanded={isCurrent}
        onClick={() => goToCluster(target, cluster)}
      >
        <span>{changes.length === 1 ? subjectOf(first!) : `${grouped(changes.length)} changes`}</span>
        <small>{changes.length === 1 && first!.label === undefined ? told : `${told} · ${layers}`}</small>
      </button>
      {isCurrent && <Open target={target} state={state} changes={changes} unit={unit} />}
    </div>
  );
}

function Open({
  target,
  state: { own, others },
  changes,
  unit,
}: Omit<ClusterProps, 'cluster'> & { readonly unit: string }): ReactElement {
  const keys = changes.map(({ key }) => key);
  const [first] = keys;
  const known = own.get(first!);
  const [note, setNote] = useState(known?.note ?? '');
  const { review } = target.comparison.getState();
  const ofOthers = others.filter(({ change }) => keys.includes(change));
  return (
    <div className="change-open">
      {changes.length > 1 && (
        <ul aria-label="Changes here">
          {changes.slice(0, MOST_TOLD).map((change) => (
            <li key={change.key}>
              {subjectOf(change)} <span className="muted">{happenedTo(change, unit)}</span>
            </li>
          ))}
          {changes.length > MOST_TOLD && <li className="muted">and {grouped(changes.length - MOST_TOLD)} more</li>}
        </ul>
      )}
      {ofOthers.map(({ change, person, state, note: told }) => (
        <p key={`${change} ${person}`} className="muted">
          {person || 'Somebody'}: {state}
          {told !== '' && `, “${told}”`}
        </p>
      ))}
      <Input
        size="small"
        aria-label="Note on the change"
        placeholder="Note"
        maxLength={2000}
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      <div className="change-say" role="group" aria-label="Say of the change">
        <Button
          size="small"
          type={known?.state === 'accepted' ? 'primary' : 'default'}
          aria-pressed={known?.state === 'accepted'}
          icon={<Check size={14} aria-hidden />}
          onClick={() => void review(keys, 'accepted', note)}
        >
          Accept
        </Button>
        <Button
          size="small"
          type={known?.state === 'questioned' ? 'primary' : 'default'}
          aria-pressed={known?.state === 'questioned'}
          icon={<CircleHelp size={14} aria-hidden />}
          onClick={() => void review(keys, 'questioned', note)}
        >
          Question
        </Button>
        <Button
          size="small"
          aria-label={known ? 'Take back' : 'Mark as seen'}
          title={known ? 'Take back' : 'Mark as seen'}
          icon={known ? <Undo2 size={14} aria-hidden /> : undefined}
          onClick={() => void review(keys, known ? 'open' : 'seen', note)}
        >
          {known ? null : 'Seen'}
        </Button>
      </div>
    </div>
  );
}
