import { Button, Input, Segmented, Switch } from 'antd';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Covered } from '@gull-pane/core/seen/coverage';
import type { Parts } from '../actions/action';
import { useSignedInName } from '../api/access-store';
import { ActionTip } from '../actions/action-tip';
import { nextUnseenAction, recordSeenAction } from '../actions/seen-actions';
import { grouped } from '../basics/figures';
import { FigureField } from '../controls/figure-field';
import { LongList } from '../controls/long-list';
import { NothingYet } from '../controls/nothing-yet';
import { usePreferences, type SeenLimits } from '../store/preferences-store';
import './seen-panel.css';

/** How high a row is before it was measured, CSS px. */
const ROW_PX = 30;

/** 99.96 of 100 is 99 %: all of it only once all has been seen. */
const percentOf = ({ seen, total }: Covered): number => (total === 0 ? 100 : Math.floor((100 * seen) / total));

/** What has just begun isn't told as nothing. */
const percentText = (covered: Covered): string =>
  covered.seen > 0 && percentOf(covered) === 0 ? '< 1 %' : `${percentOf(covered)} %`;

/** From when on something counts as seen: from person to person and from screen to screen it is another. */
function Limits(): ReactElement {
  const { seenLimits, set } = usePreferences();
  const { momentMs, textMm, detailPx } = seenLimits;
  const change = (part: Partial<SeenLimits>): void => set({ seenLimits: { ...seenLimits, ...part } });
  return (
    <details className="seen-limits">
      <summary>What counts as seen</summary>
      <label>
        At rest for
        <FigureField
          label="At rest for"
          suffix="s"
          value={momentMs / 1000}
          min={0.1}
          max={10}
          step={0.1}
          onSet={(value) => change({ momentMs: 1000 * value })}
        />
      </label>
      <label>
        Texts from
        <FigureField
          label="Texts from"
          suffix="mm"
          value={textMm}
          min={0.5}
          max={20}
          step={0.1}
          onSet={(value) => change({ textMm: value })}
        />
      </label>
      <label>
        Other objects from
        <FigureField
          label="Other objects from"
          suffix="px"
          value={detailPx}
          min={2}
          max={200}
          onSet={(value) => change({ detailPx: value })}
        />
      </label>
    </details>
  );
}

/** How much of the drawing has been on the screen at a readable size: in all, by layer, and where it hasn't. */
export function SeenPanel({
  target,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'asked' | 'coverage'>;
}): ReactElement {
  const { coverage, asked } = target;
  const { isOn, isShaded, told, shade, begin, reset } = useStore(coverage);
  const layers = useStore(target.drawing, (state) => state.layers);
  const { sheets, kind } = useStore(target.drawing, (state) => state.drawing);
  const isFlat = kind === 'flat';
  const person = usePreferences((preferences) => preferences.person);
  const isNamed = useSignedInName() !== '';
  const names = new Map(layers.map(({ id, name }) => [id, name]));
  const byLayer = [...(told?.layers ?? [])]
    .sort((a, b) => percentOf(a) - percentOf(b) || b.total - a.total)
    .map((row) => ({ ...row, name: names.get(row.layer) ?? 'no layer' }));
  // sheets stay in their order
  const bySheet = (told?.sheets ?? []).map((row, k) => ({ ...row, name: sheets[k]?.name ?? String(k + 1) }));
  const [isBySheet, setBySheet] = useState(false);
  return (
    <div className="seen">
      <label>
        <Switch
          size="small"
          checked={isOn}
          aria-label={recordSeenAction.name}
          onChange={() => recordSeenAction.run(target)}
        />
        {recordSeenAction.name}
      </label>
      <Input
        size="small"
        aria-label="Your name"
        placeholder="Your name: each person has a record"
        disabled={isNamed}
        maxLength={80}
        value={person}
        onChange={(event) => usePreferences.getState().set({ person: event.target.value })}
        onBlur={() => isOn && void begin(asked)}
      />
      <Limits />
      {!told && (
        <NothingYet>
          Nothing is recorded yet. What is on the screen for a moment, at a size at which it can be read, counts as
          seen.
        </NothingYet>
      )}
      {told && (
        <>
          <p className="seen-share" role="status" aria-label="Seen">
            <strong className="figures">{percentText(told)}</strong> seen: {grouped(told.seen)} of {grouped(told.total)}{' '}
            objects
          </p>
          <progress value={told.seen} max={told.total} aria-label="Seen of the drawing" />
          <div className="seen-acts">
            <ActionTip
              name={nextUnseenAction.name}
              sentence={nextUnseenAction.sentence}
              actionId={nextUnseenAction.id}
              placement="bottom"
            >
              <Button size="small" type="primary" onClick={() => nextUnseenAction.run(target)}>
                {nextUnseenAction.name}
              </Button>
            </ActionTip>
            <Button size="small" onClick={() => void reset(asked)}>
              Begin anew
            </Button>
          </div>
          {isFlat && (
            <label>
              <Switch
                size="small"
                checked={isShaded}
                aria-label="Hatch what is unseen"
                onChange={(checked) => void shade(checked, asked)}
              />
              Hatch what is unseen
            </label>
          )}
          {told.sheets.length > 1 && (
            <Segmented
              size="small"
              aria-label="Listed by"
              value={isBySheet ? 'sheet' : 'layer'}
              options={[
                { value: 'layer', label: 'By layer' },
                { value: 'sheet', label: 'By sheet' },
              ]}
              onChange={(value) => setBySheet(value === 'sheet')}
            />
          )}
          <LongList
            label={isBySheet ? 'Seen by sheet' : 'Seen by layer'}
            rows={isBySheet ? bySheet : byLayer}
            keyOf={({ name }) => name}
            guessPx={() => ROW_PX}
          >
            {(row) => (
              <span className="seen-row">
                <span>{row.name}</span>
                <span className="figures muted">{percentText(row)}</span>
              </span>
            )}
          </LongList>
        </>
      )}
    </div>
  );
}
