import { Alert, Button, Drawer, Radio, Slider, Switch } from 'antd';
import { RotateCcw, X } from 'lucide-react';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { notchPercent } from '@gull-pane/core/intent/hands';
import { clashesOf, isLasting, type ActId, type Input } from '@gull-pane/core/intent/inputs';
import { handProfiles } from '@gull-pane/core/intent/profiles';
import type { Parts } from '../actions/action';
import { bindingsOfProfile, nameOfAct, useBindings } from '../actions/bindings';
import { usePreferences } from '../store/preferences-store';
import { InputText } from '../tools/input-text';
import { actGroups, type ActRow } from './act-rows';
import { wordsOfInput } from './input-words';
import { recordInput } from './recorded-input';
import { WheelSample } from './wheel-sample';
import './help.css';

/** Habits: which hand does what, how far the wheel steps, and own keys. */
export function HandsPanel({ target }: { readonly target: Parts<'ui'> }): ReactElement {
  const isOpen = useStore(target.ui, (state) => state.panel === 'hands');
  return (
    <Drawer
      open={isOpen}
      onClose={() => target.ui.getState().set({ panel: null })}
      title="Hands and picture"
      size={460}
      mask={false}
      destroyOnHidden
      className="hands-panel"
    >
      <Habits />
    </Drawer>
  );
}

function Habits(): ReactElement {
  const { profile, own, percentPerNotch, isWheelReversed, glides, smoothEdges, set } = usePreferences();
  return (
    <>
      <Radio.Group
        aria-label="Habits"
        value={profile}
        onChange={(event) => {
          const next = event.target.value as typeof profile;
          // own habits begin with those that were in use
          if (next === 'own' && profile !== 'own' && Object.keys(own.changes).length === 0)
            set({ profile: next, own: { base: profile, changes: {} } });
          else set({ profile: next });
        }}
      >
        {handProfiles.map(({ id, name, sentence }) => (
          <Radio key={id} value={id}>
            <strong>{name}</strong>
            <span className="muted">{sentence}</span>
          </Radio>
        ))}
        <Radio value="own">
          <strong>Own</strong>
          <span className="muted">What you press here is what you press later.</span>
        </Radio>
      </Radio.Group>

      <h2>Wheel</h2>
      <div className="wheel-setting">
        <label>
          One notch enlarges by {percentPerNotch} %
          <Slider
            ariaLabelForHandle="Step of the wheel"
            min={notchPercent.min}
            max={notchPercent.max}
            value={percentPerNotch}
            tooltip={{ open: false }}
            onChange={(value) => set({ percentPerNotch: value })}
          />
        </label>
        <WheelSample />
      </div>
      <label className="switch-row">
        <Switch
          aria-label="Roll towards you to zoom in"
          checked={isWheelReversed}
          onChange={(value) => set({ isWheelReversed: value })}
        />
        Roll towards you to zoom in
      </label>
      <label className="switch-row">
        <Switch aria-label="A pan glides on" checked={glides} onChange={(value) => set({ glides: value })} />A pan that
        is let go while it moves glides on
      </label>

      <h2>Picture</h2>
      <label className="switch-row">
        <Switch
          aria-label="Smooth edges"
          checked={smoothEdges === 'automatic'}
          onChange={(value) => set({ smoothEdges: value ? 'automatic' : 'off' })}
        />
        Smooth edges at rest, as far as this machine is quick enough
      </label>
      {profile === 'own' && <OwnBindings />}
    </>
  );
}

/** The editor of own bindings: each act with what does it; a clash is shown where it is. */
function OwnBindings(): ReactElement {
  const bindings = useBindings();
  const { own, set } = usePreferences();
  const [recording, setRecording] = useState<ActId | null>(null);
  const clashes = clashesOf(bindings);
  const change = (act: ActId, inputs: readonly Input[]): void =>
    set({ own: { ...own, changes: { ...own.changes, [act]: inputs } } });
  /** Of several acts with one input, only this one keeps it. */
  const keepFor = (chosen: ActId, input: Input, acts: readonly ActId[]): void => {
    const without = (act: ActId): [ActId, readonly Input[]] => [
      act,
      (bindings[act] ?? []).filter((one) => one !== input),
    ];
    const changes = Object.fromEntries(acts.filter((act) => act !== chosen).map(without));
    set({ own: { ...own, changes: { ...own.changes, ...changes } } });
  };
  const reset = (act: ActId): void => {
    const changes = Object.entries(own.changes).filter(([id]) => id !== act);
    set({ own: { ...own, changes: Object.fromEntries(changes) } });
  };
  return (
    <>
      <div className="own-head">
        <h2>Own keys and gestures</h2>
        <Button size="small" onClick={() => set({ own: { ...own, changes: {} } })}>
          Reset all
        </Button>
      </div>
      {clashes.length > 0 && (
        <Alert
          type="warning"
          role="alert"
          title={clashes.map(({ input, acts }) => (
            <p key={input} className="own-clash">
              “{wordsOfInput(input)}” means {acts.map(nameOfAct).join(' and ')}: only the first is done.{' '}
              {acts.map((act) => (
                <Button key={act} size="small" onClick={() => keepFor(act, input, acts)}>
                  Use it for {nameOfAct(act)}
                </Button>
              ))}
            </p>
          ))}
        />
      )}
      {recording !== null && (
        <Recorder
          act={recording}
          onDone={(input) => {
            if (input !== null) change(recording, [...new Set([...(bindings[recording] ?? []), input])]);
            setRecording(null);
          }}
        />
      )}
      {actGroups.map(({ name, rows }) => (
        <section key={name} aria-label={name} className="own-group">
          <h4>{name}</h4>
          {rows.map((row) => (
            <OwnRow
              key={row.id}
              row={row}
              inputs={bindings[row.id] ?? []}
              clashing={clashes.filter(({ acts }) => acts.includes(row.id)).map(({ input }) => input)}
              isChanged={own.changes[row.id] !== undefined}
              usual={bindingsOfProfile(own.base)[row.id] ?? []}
              onRemove={(input) =>
                change(
                  row.id,
                  (bindings[row.id] ?? []).filter((one) => one !== input),
                )
              }
              onRecord={() => setRecording(row.id)}
              onReset={() => reset(row.id)}
            />
          ))}
        </section>
      ))}
    </>
  );
}

interface OwnRowProps {
  readonly row: ActRow;
  readonly inputs: readonly Input[];
  readonly clashing: readonly Input[];
  readonly isChanged: boolean;
  readonly usual: readonly Input[];
  readonly onRemove: (input: Input) => void;
  readonly onRecord: () => void;
  readonly onReset: () => void;
}

function OwnRow({ row, inputs, clashing, isChanged, usual, onRemove, onRecord, onReset }: OwnRowProps): ReactElement {
  return (
    <div className="own-row" role="group" aria-label={row.name}>
      <span>{row.name}</span>
      <span className="own-inputs">
        {inputs.map((input) => (
          <span key={input} className="own-input" data-clash={clashing.includes(input)}>
            <InputText input={input} />
            <button
              type="button"
              aria-label={`${row.name}: remove ${wordsOfInput(input)}`}
              onClick={() => onRemove(input)}
            >
              <X size={12} aria-hidden />
            </button>
          </span>
        ))}
        <Button size="small" aria-label={`${row.name}: add`} onClick={onRecord}>
          Add
        </Button>
        {isChanged && (
          <Button
            size="small"
            aria-label={`${row.name}: reset`}
            title={usual.map(wordsOfInput).join(', ')}
            icon={<RotateCcw size={12} aria-hidden />}
            onClick={onReset}
          />
        )}
      </span>
    </div>
  );
}

/** Takes down what is pressed. */
function Recorder({
  act,
  onDone,
}: {
  readonly act: ActId;
  readonly onDone: (input: Input | null) => void;
}): ReactElement {
  const area = useRef<HTMLDivElement>(null);
  const done = useRef(onDone);
  useEffect(() => {
    done.current = onDone;
  });
  useEffect(() => {
    area.current!.focus();
    return recordInput(area.current!, isLasting(act), (input) => done.current(input));
  }, [act]);
  return (
    <div ref={area} className="recorder" tabIndex={-1} role="status" aria-label={`Recording for ${nameOfAct(act)}`}>
      <strong>{nameOfAct(act)}</strong>
      {isLasting(act)
        ? 'Drag with a button here, turn the wheel, or hold a key for a moment; modifiers count.'
        : 'Press a key, or a button here once or twice; modifiers count.'}
      <span className="muted">Escape leaves all as it was.</span>
    </div>
  );
}
