import { Checkbox, InputNumber, Popover, Button } from 'antd';
import { Magnet } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { snapKinds, type SnapKind } from '@gull-pane/core/snap/snap';
import type { ActionTarget } from '../actions/action';
import { ActionTip, KeyCaps } from '../actions/action-tip';
import { gridStepOf } from '../snapping/find-snaps';
import { usePreferences } from '../store/preferences-store';

/** Kinds that there are in models only. */
const solidKinds: ReadonlySet<SnapKind> = new Set([
  'corner',
  'edge middle',
  'face centre',
  'foot on face',
  'apparent crossing',
]);
const flatKinds: ReadonlySet<SnapKind> = new Set(['end', 'middle', 'centre', 'quadrant', 'tangent']);

/** What points are drawn to: any set of kinds at once. */
export function SnapsButton({ target }: { readonly target: ActionTarget }): ReactElement {
  const [isOpen, setOpen] = useState(false);
  const { snapKinds: on } = usePreferences();
  const { solid } = target.drawing.getState();
  const own = snapKinds.filter((kind) => !(solid ? flatKinds : solidKinds).has(kind));
  const count = own.filter((kind) => on.includes(kind)).length;
  const told = count === 0 ? 'off' : count === own.length ? 'all' : String(count);
  return (
    <Popover
      open={isOpen}
      onOpenChange={setOpen}
      trigger="click"
      placement="topRight"
      destroyOnHidden
      content={<SnapsPanel target={target} own={own} />}
    >
      <span>
        <ActionTip name="Snaps" sentence="What points are drawn to while they are placed." placement="top">
          <button type="button" className="foot-button" aria-label={`Snaps, ${told}`} aria-expanded={isOpen}>
            <Magnet size={14} aria-hidden /> Snaps {told}
          </button>
        </ActionTip>
      </span>
    </Popover>
  );
}

function SnapsPanel({
  target,
  own,
}: {
  readonly target: ActionTarget;
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
        <InputNumber
          size="small"
          min={0}
          aria-label="Grid step"
          value={gridSteps[id] ?? gridStepOf(target) ?? 0}
          onChange={(step) => set({ gridSteps: { ...gridSteps, [id]: step ?? 0 } })}
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
