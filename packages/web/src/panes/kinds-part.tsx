import { Checkbox, Popover } from 'antd';
import { Eye } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { allLooks, type PaneLooks } from '../render/pane-view';

const kindNames: readonly (readonly [keyof PaneLooks, string])[] = [
  ['texts', 'Texts'],
  ['fills', 'Filled areas'],
  ['weights', 'Line weights'],
  ['dashes', 'Broken lines as such'],
  ['lineStyles', 'Colours of lines'],
  ['transparency', 'Transparency'],
];

/** Which kinds of things a flat drawing's pane shows. */
export function KindsPart({ target: { pane } }: { readonly target: ActionTarget }): ReactElement {
  const [isOpen, setOpen] = useState(false);
  const kinds = useStore(pane, (state) => state.kinds);
  const off = kindNames.filter(([kind]) => !kinds[kind]);
  const { setKinds } = pane.getState();
  const label =
    off.length === 0 ? 'Shows all kinds' : `Without ${off.map(([, name]) => name.toLowerCase()).join(', ')}`;
  return (
    <Popover
      open={isOpen}
      onOpenChange={setOpen}
      trigger="click"
      placement="topRight"
      destroyOnHidden
      content={
        <div className="kinds" role="group" aria-label="Kinds of things">
          {kindNames.map(([kind, name]) => (
            <Checkbox key={kind} checked={kinds[kind]} onChange={({ target }) => setKinds({ [kind]: target.checked })}>
              {name}
            </Checkbox>
          ))}
          <button type="button" className="text-button" disabled={off.length === 0} onClick={() => setKinds(allLooks)}>
            Show all kinds
          </button>
        </div>
      }
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
