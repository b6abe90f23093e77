import { Button, Checkbox } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { SnapKind } from '@gull-pane/core/snap/snap';
import { readLength } from '@gull-pane/core/typed/typed-number';
import type { Parts } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { FigureField } from '../controls/figure-field';
import { gridStepOf } from '../snapping/find-snaps';
import { usePreferences } from '../store/preferences-store';

/** Chooses the kinds of snaps and the step of the grid. */
export function SnapsPanel({
  target,
  own,
}: {
  readonly target: Parts<'drawing'>;
  readonly own: readonly SnapKind[];
}): ReactElement {
  const { snapKinds: on, gridSteps, set } = usePreferences();
  const { id, unit } = useStore(target.drawing, (state) => state.drawing);
  const change = (kind: SnapKind, isOn: boolean): void =>
    set({ snapKinds: isOn ? [...on, kind] : on.filter((one) => one !== kind) });
  return (
    <div className="foot-panel snaps-panel">
      <div className="snaps-all">
        <Button size="small" onClick={() => set({ snapKinds: [...new Set([...on, ...own])] })}>
          All
        </Button>
        <Button size="small" onClick={() => set({ snapKinds: on.filter((kind) => !own.includes(kind)) })}>
          None
        </Button>
      </div>
      <div className="snaps-kinds" role="group" aria-label="Kinds of snaps">
        {own.map((kind) => (
          <Checkbox key={kind} checked={on.includes(kind)} onChange={(event) => change(kind, event.target.checked)}>
            {kind}
          </Checkbox>
        ))}
      </div>
      <label className="snaps-grid">
        Grid every
        <FigureField
          label="Grid step"
          min={0}
          read={(text) => readLength(text, unit)}
          value={gridSteps[id] ?? gridStepOf(target) ?? 0}
          onSet={(gridStep) => set({ gridSteps: { ...gridSteps, [id]: gridStep } })}
          {...(unit === 'none' ? {} : { suffix: unit })}
        />
      </label>
      <p className="muted">
        Places come first, then feet on lines, then the grid. <KeyCaps keyName="." /> takes the next where several are
        near.
      </p>
    </div>
  );
}
