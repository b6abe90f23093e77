import { Checkbox } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { allLooks } from '../render/pane-view';
import type { PaneStore } from '../store/pane-store';
import { kindNames } from './kind-names';

/** Chooses which kinds of things a flat drawing's pane shows. */
export function KindsPanel({ pane }: { readonly pane: PaneStore }): ReactElement {
  const kinds = useStore(pane, (state) => state.kinds);
  const isAll = kindNames.every(([kind]) => kinds[kind]);
  const { setKinds } = pane.getState();
  return (
    <div className="kinds" role="group" aria-label="Kinds of things">
      {kindNames.map(([kind, name]) => (
        <Checkbox key={kind} checked={kinds[kind]} onChange={({ target }) => setKinds({ [kind]: target.checked })}>
          {name}
        </Checkbox>
      ))}
      <button type="button" className="text-button" disabled={isAll} onClick={() => setKinds(allLooks)}>
        Show all kinds
      </button>
    </div>
  );
}
