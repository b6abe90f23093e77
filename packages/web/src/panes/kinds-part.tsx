import { Popover } from 'antd';
import { Eye } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { kindNames } from './kind-names';
import { KindsPanel } from './later-parts';

/** Which kinds of things a flat drawing's pane shows. */
export function KindsPart({ target: { pane } }: { readonly target: ActionTarget }): ReactElement {
  const [isOpen, setOpen] = useState(false);
  const kinds = useStore(pane, (state) => state.kinds);
  const off = kindNames.filter(([kind]) => !kinds[kind]);
  const label =
    off.length === 0 ? 'Shows all kinds' : `Without ${off.map(([, name]) => name.toLowerCase()).join(', ')}`;
  return (
    <Popover
      open={isOpen}
      onOpenChange={setOpen}
      trigger="click"
      placement="topRight"
      destroyOnHidden
      content={<KindsPanel pane={pane} />}
    >
      <span>
        <ActionTip
          name="Kinds of things"
          sentence="What this pane shows: texts, fills, weights and so on."
          placement="top"
        >
          <button type="button" className="foot-button" aria-label={label} aria-expanded={isOpen}>
            <Eye size={14} aria-hidden />
            {off.length > 0 && <span>{off.length} off</span>}
          </button>
        </ActionTip>
      </span>
    </Popover>
  );
}
