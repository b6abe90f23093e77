import { Button, Input } from 'antd';
import { Trash2 } from 'lucide-react';
import { Fragment, useCallback, useEffect, useMemo, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { measureSolid } from '@gull-pane/core/solid/measure';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { ObjectDto, SolidDto } from '@gull-pane/protocol/objects';
import { isFor, type Action, type ActionTarget, type Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import {
  clearPicksAction,
  framePickedAction,
  onlyThisLayerAction,
  otherPicksAction,
  sameKindAction,
  sameLayerAction,
} from '../actions/pick-actions';
import { hideTheseAction, onlyTheseAction } from '../actions/show-actions';
import { api } from '../api/client';
import { LongList } from '../controls/long-list';
import { exactText, grouped } from '../basics/figures';
import type { ObjectFacts } from '../picking/pick-questions';
import { usePickSets } from '../store/pick-sets-store';
import { tellFailed } from '../store/tell-failed';
import { listSign } from '../basics/decimals';

/** How high a row is before it was measured, CSS px. */
const ROW_PX = 46;
/** Facts of so many objects are asked for at once. */
const BATCH = 100;

/** What is picked: what can be done with it, its objects one by one, and sets that are kept. */
export function PickedPanel({ target }: { readonly target: ActionTarget }): ReactElement {
  const picked = useStore(target.picked, (state) => state.picked);
  const trouble = useStore(target.picks, (state) => state.trouble);
  return (
    <div className="picked">
      <p role="status" aria-label="Picked">
        {picked.size === 0 ? (
          <>Nothing is picked. Click an object, or drag a box over several; Shift adds or takes away.</>
        ) : (
          <strong>{picked.size === 1 ? '1 object picked' : `${grouped(picked.size)} objects picked`}</strong>
        )}
      </p>
      {trouble !== null && (
        <p role="alert">
          Picking didn’t work ({trouble}). If the drawing comes from an older version, import its file anew.
        </p>
      )}
      {picked.size > 0 && (
        <div className="picked-acts">
          {[
            framePickedAction,
            clearPicksAction,
            sameKindAction,
            sameLayerAction,
            onlyThisLayerAction,
            otherPicksAction,
            onlyTheseAction,
            hideTheseAction,
          ]
            .filter((action) => isFor(action, target))
            .map((action) => (
              <ActButton key={action.id} action={action} target={target} />
            ))}
        </div>
      )}
      <PickSets target={target} />
      {picked.size > 0 && <PickedList target={target} picked={picked} />}
    </div>
  );
}

function ActButton({ action, target }: { readonly action: Action; readonly target: ActionTarget }): ReactElement {
  return (
    <ActionTip name={action.name} sentence={action.sentence} actionId={action.id}>
      <Button size="small" onClick={() => action.run(target)}>
        {action.name}
      </Button>
    </ActionTip>
  );
}

/** The picked objects; what is told of each is asked for when it comes into sight. */
function PickedList({
  target,
  picked,
}: {
  readonly target: Parts<'drawing' | 'asked'>;
  readonly picked: ReadonlySet<number>;
}): ReactElement {
  const { asked } = target;
  const entries = useMemo(() => [...picked], [picked]);
  const [known, setKnown] = useState<ReadonlyMap<number, ObjectFacts>>(new Map());
  const [batch, setBatch] = useState(0);
  const see = useCallback((_: number, to: number) => setBatch(Math.floor(Math.max(to - 1, 0) / BATCH)), []);
  useEffect(() => {
    // the batch in sight and the one before it
    const wanted = Uint32Array.from(entries.slice(Math.max(batch - 1, 0) * BATCH, (batch + 1) * BATCH));
    const take = (facts: readonly ObjectFacts[]): void =>
      setKnown((before) => new Map([...before, ...facts.map((one) => [one.entry, one] as const)]));
    asked.askLatest('facts', { entries: wanted, withLength: true }, take, 'facts of the list');
  }, [asked, entries, batch]);
  return (
    <LongList
      label="Picked objects"
      className="picked-list"
      rows={entries}
      keyOf={(entry) => entry}
      guessPx={() => ROW_PX}
      onSeen={see}
    >
      {(entry) => {
        const facts = known.get(entry);
        return facts ? <PickedRow target={target} facts={facts} /> : <p className="muted picked-row">…</p>;
      }}
    </LongList>
  );
}

function PickedRow({
  target,
  facts,
}: {
  readonly target: Parts<'drawing'>;
  readonly facts: ObjectFacts;
}): ReactElement {
  const [isOpen, setOpen] = useState(false);
  const { layers, drawing, solid } = useStore(target.drawing);
  const layer = layers.find(({ id }) => id === facts.layer)?.name ?? 'no layer';
  return (
    <>
      <button type="button" className="picked-row" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        <span>
          {facts.name ?? facts.kind}
          {facts.kind !== 'text' && facts.length !== null && (
            <span className="figures muted">
              {' '}
              {exactText(Math.round(facts.length * 1000) / 1000)}
              {drawing.unit === 'none' ? '' : ` ${drawing.unit}`}
            </span>
          )}
        </span>
        <small>{layer}</small>
      </button>
      {isOpen && <ExactFacts drawingId={drawing.id} facts={facts} table={solid} />}
    </>
  );
}

const pointText = ([x, y]: readonly [number, number]): string => `${exactText(x)}${listSign()} ${exactText(y)}`;
const MOST_POINTS = 60;

/** The object as the file has it: every coordinate with all its digits. */
function ExactFacts({
  drawingId,
  facts: { object, kind },
  table,
}: {
  readonly drawingId: string;
  readonly facts: ObjectFacts;
  readonly table: SolidTable | null;
}): ReactElement {
  const [known, setKnown] = useState<ObjectDto | string | null>(null);
  useEffect(() => {
    api.object(drawingId, object).then(setKnown, (error: unknown) => setKnown(String(error)));
  }, [drawingId, object]);
  if (known === null) return <p className="picked-facts muted">Fetching …</p>;
  if (typeof known === 'string') return <p className="picked-facts">{known}</p>;
  const { text, solid, segments = [] } = known;
  return (
    <dl className="picked-facts">
      <dt>Object</dt>
      <dd className="figures">
        {object}, {kind}
      </dd>
      {text && (
        <>
          <dt>Text</dt>
          <dd>{text.text}</dd>
          <dt>Stands at</dt>
          <dd className="figures">{pointText([text.x, text.y])}</dd>
          <dt>Height</dt>
          <dd className="figures">{exactText(text.size)}</dd>
        </>
      )}
      {solid && <SolidFacts solid={solid} path={pathOf(table, object)} box={boxOf(table, object)} />}
      {segments.length > 0 && (
        <>
          <dt>From</dt>
          <dd className="figures">{pointText(segments[0]!.from)}</dd>
          {segments.slice(0, MOST_POINTS).map((segment, index) => (
            <dd key={index} className="figures">
              {segment.kind} to {pointText(segment.to)}
              {segment.kind === 'arc' && <> about {pointText(segment.centre)}</>}
            </dd>
          ))}
          {segments.length > MOST_POINTS && (
            <dd className="muted">and {grouped(segments.length - MOST_POINTS)} segments more</dd>
          )}
        </>
      )}
    </dl>
  );
}

/** The branches that an object hangs below, from the top. */
function pathOf(table: SolidTable | null, object: number): string {
  const names: string[] = [];
  if (!table) return '';
  const { tree, nodes } = table;
  for (let node = nodes[object] ?? -1; node >= 0; node = tree.parents[node] ?? -1) names.unshift(tree.names[node]!);
  return names.join(' › ');
}

/** What is told in mm, in the metres that people say. */
const measureText = (value: number, power: 2 | 3): string =>
  `${exactText(Number((value / 1000 ** power).toPrecision(6)))} m${power === 2 ? '²' : '³'}`;

/** The least coordinates of an object, then the largest. */
const boxOf = (table: SolidTable | null, object: number): readonly number[] =>
  table?.boxes.slice(6 * object, 6 * object + 6) ?? [];

function SolidFacts({
  solid: { facts, parts },
  path,
  box,
}: {
  readonly solid: SolidDto;
  readonly path: string;
  readonly box: readonly number[];
}): ReactElement {
  const { area, volume } = measureSolid(parts);
  const triangles = parts.reduce((sum, part) => sum + part.triangles.length / 3, 0);
  const points = parts.reduce((sum, part) => sum + (part.points?.count ?? 0), 0);
  const corners = parts.flatMap(({ positions }) => positions);
  const reach = (axis: number): string => {
    // of very many points the places aren't told one by one
    let [least, most] = corners.length > 0 ? [Infinity, -Infinity] : [box[axis] ?? 0, box[axis + 3] ?? 0];
    for (let i = axis; i < corners.length; i += 3) {
      least = Math.min(least, corners[i]!);
      most = Math.max(most, corners[i]!);
    }
    return least === most ? exactText(least) : `${exactText(least)} … ${exactText(most)}`;
  };
  return (
    <>
      {facts.map((fact) => (
        <Fragment key={fact}>
          <dt>{fact.slice(0, fact.indexOf(':'))}</dt>
          <dd>{fact.slice(fact.indexOf(':') + 1)}</dd>
        </Fragment>
      ))}
      {path !== '' && (
        <>
          <dt>In</dt>
          <dd>{path}</dd>
        </>
      )}
      {triangles > 0 && (
        <>
          <dt>Area</dt>
          <dd className="figures">{measureText(area, 2)}</dd>
          <dt>Volume</dt>
          <dd className="figures">{volume === null ? 'none: it isn’t closed' : measureText(volume, 3)}</dd>
        </>
      )}
      <dt>East</dt>
      <dd className="figures">{reach(0)}</dd>
      <dt>North</dt>
      <dd className="figures">{reach(1)}</dd>
      <dt>Height</dt>
      <dd className="figures">{reach(2)}</dd>
      {triangles > 0 && (
        <>
          <dt>Triangles</dt>
          <dd className="figures">{grouped(triangles)}</dd>
        </>
      )}
      {points > 0 && (
        <>
          <dt>Points</dt>
          <dd className="figures">{grouped(points)}</dd>
        </>
      )}
    </>
  );
}

function PickSets({ target }: { readonly target: Parts<'drawing' | 'asked' | 'picked' | 'picks'> }): ReactElement {
  const { drawing, picks, picked, asked } = target;
  const { id, revision } = useStore(drawing, (state) => state.drawing);
  const key = `${id} ${revision}`;
  const sets = usePickSets((state) => state.byDrawing[key] ?? noSets);
  const { keep, forget } = usePickSets.getState();
  const [name, setName] = useState('');
  const hasPicks = useStore(picked, (state) => state.picked.size > 0);
  const save = (): void => {
    const entries = Uint32Array.from(picked.getState().picked);
    const called = name.trim() === '' ? `Set ${sets.length + 1}` : name.trim();
    asked
      .ask('facts', { entries, withLength: false })
      .then((facts) => {
        keep(key, { name: called, objects: facts.map(({ object }) => object) });
        setName('');
      })
      .catch(tellFailed('The set wasn’t saved.'));
  };
  return (
    <>
      {hasPicks && (
        <div className="set-row">
          <Input
            size="small"
            aria-label="Name of the set"
            placeholder="Name of a set to keep"
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
            onPressEnter={save}
          />
          <Button size="small" onClick={save}>
            Keep
          </Button>
        </div>
      )}
      {sets.length > 0 && (
        <ul aria-label="Kept sets">
          {sets.map((set) => (
            <li key={set.name} className="set-row">
              <Button size="small" type="text" onClick={() => void picks.getState().pickObjects(set.objects)}>
                {set.name} <span className="muted figures">{grouped(set.objects.length)}</span>
              </Button>
              <button
                type="button"
                className="icon-button"
                aria-label={`Forget ${set.name}`}
                onClick={() => forget(key, set.name)}
              >
                <Trash2 size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

const noSets: readonly { readonly name: string; readonly objects: readonly number[] }[] = [];
