import { Eye } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { PopoverButton } from '../controls/popover-button';
import { kindNames } from '../words/kind-names';
import { KindsPanel } from './later-parts';

/** Which kinds of things a flat drawing's pane shows. */
export function KindsPart({ target: { pane } }: { readonly target: Parts<'pane'> }): ReactElement {
  const kinds = useStore(pane, ({ shown }) => shown.kinds);
  const off = kindNames.filter(([kind]) => !kinds[kind]);
  const label =
    off.length === 0 ? 'Shows all kinds' : `Without ${off.map(([, name]) => name.toLowerCase()).join(', ')}`;
  return (
    <PopoverButton
      className="foot-button"
      label={label}
      placement="topRight"
      tip={{ name: 'Kinds of things', sentence: 'What this pane shows: texts, fills, weights and so on.' }}
      content={() => <KindsPanel pane={pane} />}
    >
      <Eye size={14} aria-hidden />
      {off.length > 0 && <span>{off.length} off</span>}
    </PopoverButton>
  );
}
