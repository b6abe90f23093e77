import { Popover } from 'antd';
import { Magnet } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { snapKinds, type SnapKind } from '@gull-pane/core/snap/snap';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { usePreferences } from '../store/preferences-store';
import { SnapsPanel } from './later-parts';

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
