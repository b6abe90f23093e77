import { Magnet } from 'lucide-react';
import type { ReactElement } from 'react';
import { snapKinds, type SnapKind } from '@gull-pane/core/snap/snap';
import type { Parts } from '../actions/action';
import { PopoverButton } from '../controls/popover-button';
import { usePreferences } from '../store/preferences-store';
import { SnapsPanel } from './later-parts';

/** Kinds that there are in models only. */
const solidKinds: ReadonlySet<SnapKind> = new Set([
  'corner',
  'point',
  'edge middle',
  'face centre',
  'foot on face',
  'apparent crossing',
]);
const flatKinds: ReadonlySet<SnapKind> = new Set(['end', 'middle', 'centre', 'quadrant', 'tangent']);

/** What points snap to: any set of kinds at once. */
export function SnapsButton({ target }: { readonly target: Parts<'drawing'> }): ReactElement {
  const { snapKinds: on } = usePreferences();
  const { solid } = target.drawing.getState();
  const own = snapKinds.filter((kind) => !(solid ? flatKinds : solidKinds).has(kind));
  const count = own.filter((kind) => on.includes(kind)).length;
  const told = count === 0 ? 'off' : count === own.length ? 'all' : String(count);
  return (
    <PopoverButton
      className="foot-button status-tool"
      label={`Snaps, ${told}`}
      placement="topRight"
      tip={{ name: 'Snaps', sentence: 'What points snap to while they are placed.' }}
      content={() => <SnapsPanel target={target} own={own} />}
    >
      <Magnet size={14} aria-hidden /> Snaps {told}
    </PopoverButton>
  );
}
