import { Button, Input, Slider, Switch } from 'antd';
import { Check, CircleHelp, Download, Undo2 } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ChangeDto, ComparisonDto } from '@gull-pane/protocol/comparison';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import type { ActionTarget, Parts } from '../actions/action';
import { goToCluster, nextChangeAction, previousChangeAction } from '../actions/change-actions';
import { ActionTip } from '../actions/action-tip';
import { grouped, whenText } from '../basics/figures';
import { saveFile } from '../basics/save-file';
import { LongList } from '../controls/long-list';
import { NothingYet } from '../controls/nothing-yet';
import { listedClusters, type ComparisonState, type ReviewFilter } from '../store/comparison-store';
import { usePreferences } from '../store/preferences-store';
import { changesAsCsv, clusterInWords, happenedTo, subjectOf, wayNames } from '../words/change-words';
import './changes-panel.css';

/** How high a row is before it was measured, CSS px. */
const ROW_PX = 52;
/** Of a cluster that is open so many changes are told one by one. */
const MOST_TOLD = 40;

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
        <NothingYet>Only one revision is kept. Import a newer file of this drawing to see what changes.</NothingYet>
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
  readonly target: Parts<'comparison'>;
  readonly revisions: readonly RevisionDto[];
  readonly state: ComparisonState;
}): ReactElement {
  const [newest, before] = revisions;
  const { from = before!.number, to = newest!.number } = state.comparison ?? {};
  const choice = (label: string, value: number, onChange: (number: number) => void): ReactElement => {
    const told = revisions.find((one) => one.number === value);
    return (
      <label>
        {label}
        <select
          className="plain-select"
          value={value}
          onChange={(event) => onChange(Number(event.target.value))}
          aria-label={`${label} revision`}
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
  const compare = (one: number, other: number): void => {
    if (one !== other) void target.comparison.getState().compare(one, other);
  };
  return (
    <div className="changes-pair">
      {choice('From', from, (number) => compare(number, to))}
      {choice('To', to, (number) => compare(from, number))}
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
  const { own, ways, filter, isShown, fade, set } = state;
  const listed = listedClusters(state);
  const looked = changes.filter(({ key }) => own.has(key)).length;
  const person = usePreferences((preferences) => preferences.person);
  if (total === 0) return <NothingYet>{`Nothing differs: all ${grouped(same)} objects are the same.`}</NothingYet>;
  return (
    <>
      <div className="changes-lay">
        <label>
          <Switch
            size="small"
            checked={isShown}
            aria-label="Lay over the drawing"
            onChange={(checked) => set({ isShown: checked })}
          />
          Lay over the drawing
        </label>
        <div className="changes-fade">
          <span className="changes-was">was</span>
          <Slider
            ariaLabelForHandle="From the earlier to the later revision"
            min={0}
            max={1}
            step={0.05}
            value={fade}
            disabled={!isShown}
            tooltip={{ open: false }}
            onChange={(value) => set({ fade: value })}
          />
          <span className="changes-is">is</span>
        </div>
      </div>
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
        <Button
          size="small"
          aria-label="Save the list as CSV"
          title="Save the list as CSV"
          icon={<Download size={14} aria-hidden />}
          onClick={() => saveCsv(target, comparison, state)}
        />
      </div>
      <Input
        size="small"
        aria-label="Your name"
        placeholder="Your name, for what you say of changes"
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

function StepButton({
  target,
  action,
}: {
  readonly target: ActionTarget;
  readonly action: typeof nextChangeAction;
}): ReactElement {
  return (
    <ActionTip name={action.name} sentence={action.sentence} actionId={action.id} placement="bottom">
      <Button size="small" aria-label={action.name} onClick={() => action.run(target)}>
        <action.icon size={14} aria-hidden />
      </Button>
    </ActionTip>
  );
}

interface ClusterProps {
  readonly target: Parts<'pane' | 'drawing' | 'comparison'>;
  readonly state: ComparisonState;
  readonly cluster: number;
  readonly changes: readonly ChangeDto[];
}

/** Changes that lie beside one another: framed as one, said of as one. */
function ClusterRow({ target, state, cluster, changes }: ClusterProps): ReactElement {
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

function saveCsv({ drawing }: Parts<'drawing'>, { changes }: ComparisonDto, { own }: ComparisonState): void {
  const { name, unit } = drawing.getState().drawing;
  const text = changesAsCsv(changes, unit, (key) => own.get(key));
  saveFile(`${name}, changes.csv`, new Blob([text], { type: 'text/csv' }));
}
