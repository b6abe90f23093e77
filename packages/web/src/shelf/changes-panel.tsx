import { Button, Input } from 'antd';
import { useEffect, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ComparisonDto } from '@gull-pane/protocol/comparison';
import { addressOfRevision, idOfAddress } from '@gull-pane/protocol/drawings';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import type { Action, ActionTarget, Parts } from '../actions/action';
import { beforeAndAfterAction, nextChangeAction, previousChangeAction } from '../actions/change-actions';
import { ActionTip } from '../actions/action-tip';
import { useSignedInName } from '../api/access-store';
import { grouped, whenText } from '../basics/figures';
import { FigureField } from '../controls/figure-field';
import { LongList } from '../controls/long-list';
import { NothingYet } from '../controls/nothing-yet';
import { listedClusters, type ComparisonState, type ReviewFilter } from '../store/comparison-store';
import { usePreferences } from '../store/preferences-store';
import { wayNames } from '../words/change-words';
import { ClusterRow } from './change-row';
import { ChangesOut } from './changes-out';
import { LaidOver } from './laid-over';
import './changes-panel.css';

/** Of coordinates that count as the same, drawing units. */
const LARGEST_TOLERANCE = 1000;
/** How high a row is before it was measured, CSS px. */
const ROW_PX = 52;
const filters: readonly (readonly [ReviewFilter, string])[] = [
  ...([
    ['all', 'All'],
    ['open', 'Not looked at'],
    ['seen', 'Seen'],
    ['accepted', 'Accepted'],
  ] as const),
  ['questioned', 'Questioned'],
];

/** What differs from a former revision: laid over the drawing, listed, gone through and reviewed. */
export function ChangesPanel({ target }: { readonly target: ActionTarget }): ReactElement {
  const { comparison: store } = target;
  const state = useStore(store);
  const { revisions, comparison, isLoading, trouble, load } = state;
  useEffect(() => void load(), [load]);
  return (
    <div className="changes">
      {trouble !== null && (
        <p role="alert">
          {trouble} <Button onClick={() => void load()}>Try again</Button>
        </p>
      )}
      {revisions !== null && revisions.length < 2 && (
        <NothingYet>Only one revision is kept. Import a new revision of this drawing to see what changes.</NothingYet>
      )}
      {revisions !== null && revisions.length > 1 && <Pair target={target} revisions={revisions} state={state} />}
      {isLoading && <p role="status">Comparing …</p>}
      {comparison && !isLoading && <Compared target={target} state={state} comparison={comparison} />}
    </div>
  );
}

const nameOf = ({ number, name, fileName }: RevisionDto): string =>
  name || fileName ? `${number} · ${name || fileName}` : `Revision ${number}`;

/** Which two revisions are compared. */
function Pair({
  target,
  revisions,
  state,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'panes' | 'comparison'>;
  readonly revisions: readonly RevisionDto[];
  readonly state: ComparisonState;
}): ReactElement {
  const [newest, before] = revisions;
  const { from = before!.number, to = newest!.number } = state.comparison ?? {};
  const choice = (
    label: string,
    value: number,
    onChange: (number: number) => void,
    name = `${label} revision`,
  ): ReactElement => {
    const told = revisions.find((one) => one.number === value);
    return (
      <label>
        {label}
        <select
          className="plain-select"
          value={value}
          onChange={(event) => onChange(Number(event.target.value))}
          aria-label={name}
          title={told && `Imported ${whenText(told.importedAt)}`}
        >
          {revisions.map((one) => (
            <option key={one.number} value={one.number}>
              {nameOf(one)}
            </option>
          ))}
        </select>
      </label>
    );
  };
  const { drawing } = useStore(target.drawing);
  const show = (number: number): void => {
    const isPresent = revisions.some((one) => one.number === number && one.isCurrent);
    const address = isPresent ? idOfAddress(drawing.id) : addressOfRevision(drawing.id, number);
    void target.panes.getState().openIn(target.pane.getState().id, address);
  };
  const compare = (one: number, other: number): void => {
    if (one !== other) void target.comparison.getState().compare(one, other);
  };
  return (
    <div className="changes-pair">
      {choice('From', from, (number) => compare(number, to))}
      {choice('To', to, (number) => compare(from, number))}
      {choice('Shown', drawing.revision, show, 'Revision in this pane')}
      {state.comparison && (
        <div className="changes-within">
          <span aria-hidden>Same within</span>
          <FigureField
            label="Same within"
            value={state.comparison.tolerance}
            min={1e-6}
            max={LARGEST_TOLERANCE}
            {...(drawing.unit === 'none' ? {} : { suffix: drawing.unit })}
            onSet={(tolerance) => void target.comparison.getState().compare(from, to, tolerance)}
          />
        </div>
      )}
    </div>
  );
}

interface ComparedProps {
  readonly target: ActionTarget;
  readonly state: ComparisonState;
  readonly comparison: ComparisonDto;
}

function Compared({ target, state, comparison }: ComparedProps): ReactElement {
  const { changes, clusters, total, same } = comparison;
  const { own, ways, filter, set } = state;
  const listed = listedClusters(state);
  const looked = changes.filter(({ key }) => own.has(key)).length;
  const person = usePreferences((preferences) => preferences.person);
  const isNamed = useSignedInName() !== '';
  if (total === 0) return <NothingYet>{`Nothing differs: all ${grouped(same)} objects are the same.`}</NothingYet>;
  return (
    <>
      <LaidOver target={target} state={state} />
      <div className="changes-ways" role="group" aria-label="Kinds of changes">
        {wayNames.map(([way, name]) => {
          const count = changes.filter((change) => change.ways.includes(way)).length;
          return (
            count > 0 && (
              <button
                key={way}
                type="button"
                className="small-button"
                aria-pressed={!ways.has(way)}
                onClick={() => set({ ways: toggled(ways, way) })}
              >
                {name} <span className="figures">{grouped(count)}</span>
              </button>
            )
          );
        })}
      </div>
      <div className="changes-steps">
        <StepButton target={target} action={previousChangeAction} />
        <StepButton target={target} action={nextChangeAction} />
        <StepButton target={target} action={beforeAndAfterAction} />
        <select
          className="plain-select"
          aria-label="Which changes are listed"
          value={filter}
          onChange={(event) => set({ filter: event.target.value as ReviewFilter })}
        >
          {filters.map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
        <ChangesOut target={target} state={state} />
      </div>
      <Input
        size="small"
        aria-label="Your name"
        placeholder="Your name, for what you say of changes"
        disabled={isNamed}
        maxLength={80}
        value={person}
        onChange={(event) => usePreferences.getState().set({ person: event.target.value })}
        onBlur={() => void target.comparison.getState().reloadReviews()}
      />
      <p className="muted" role="status">
        {grouped(looked)} of {grouped(changes.length)} changes looked at
        {total > changes.length && `; ${grouped(total - changes.length)} more aren’t listed`}
      </p>
      <LongList
        label="Changes"
        rows={listed}
        keyOf={(cluster) => cluster}
        guessPx={() => ROW_PX}
        inSight={listed.indexOf(state.current)}
      >
        {(cluster) => (
          <ClusterRow
            target={target}
            state={state}
            cluster={cluster}
            changes={clusters[cluster]!.changes.map((k) => changes[k]!)}
          />
        )}
      </LongList>
    </>
  );
}

function toggled<T>(set: ReadonlySet<T>, item: T): ReadonlySet<T> {
  const next = new Set(set);
  if (!next.delete(item)) next.add(item);
  return next;
}

function StepButton({ target, action }: { readonly target: ActionTarget; readonly action: Action }): ReactElement {
  return (
    <ActionTip name={action.name} sentence={action.sentence} actionId={action.id} placement="bottom">
      <Button size="small" aria-label={action.name} onClick={() => action.run(target)}>
        <action.icon size={14} aria-hidden />
      </Button>
    </ActionTip>
  );
}
