import { Checkbox } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { allKinds, withKinds, type ShownKinds } from '@gull-pane/core/view/shown';
import type { PaneStore } from '../store/pane-state';
import { kindNames } from '../words/kind-names';

/** Chooses which kinds of things a flat drawing's pane shows. */
export function KindsPanel({ pane }: { readonly pane: PaneStore }): ReactElement {
  const kinds = useStore(pane, ({ shown }) => shown.kinds);
  const isAll = kindNames.every(([kind]) => kinds[kind]);
  const setKinds = (change: Partial<ShownKinds>): void =>
    pane.getState().update((shown) => withKinds(shown, change), 'kinds');
  return (
    <div className="kinds" role="group" aria-label="Kinds of things">
      {kindNames.map(([kind, name]) => (
        <Checkbox key={kind} checked={kinds[kind]} onChange={({ target }) => setKinds({ [kind]: target.checked })}>
          {name}
        </Checkbox>
      ))}
      <button type="button" className="text-button" disabled={isAll} onClick={() => setKinds(allKinds)}>
        Show all kinds
      </button>
    </div>
  );
}
