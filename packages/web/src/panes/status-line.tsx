import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { showAllAction } from '../actions/show-actions';
import { Prompt } from '../tools/prompt';
import { FiguresButton } from '../tools/figures-button';
import { SnapsButton } from '../tools/snaps-button';
import { SavingMark } from './saving-mark';
import { FirstHints } from '../help/first-hints';
import { grouped } from '../basics/figures';

const unitNames = { mm: 'millimetres', m: 'metres', in: 'inches', ft: 'feet', none: 'no unit' } as const;

/** The line at the bottom: what to do next at the left, what is open at the right. */
export function StatusLine({ target }: { readonly target: ActionTarget }): ReactElement {
  const { id, counts, unit } = useStore(target.drawing, (state) => state.drawing);
  const hidden = useStore(target.pane, ({ shown }) => shown.hiddenLayers.size);
  const hiddenObjects = useStore(target.pane, ({ shown }) => shown.hiddenObjects?.count ?? 0);
  return (
    <footer className="status-line" aria-label="Status">
      <span className="prompt" role="status" aria-label="Prompt">
        <Prompt target={target} />
      </span>
      {/* their panels are about one drawing and close with it */}
      <SnapsButton key={`snaps ${id}`} target={target} />
      <FiguresButton key={`figures ${id}`} target={target} />
      <FirstHints target={target} />
      <SavingMark />
      <span className="muted">
        {hiddenObjects > 0 && (
          <>
            <strong>{hiddenObjects === 1 ? '1 object' : `${grouped(hiddenObjects)} objects`} hidden</strong>
            <ActionTip
              name={showAllAction.name}
              sentence={showAllAction.sentence}
              actionId={showAllAction.id}
              placement="top"
            >
              <button type="button" className="text-button" onClick={() => showAllAction.run(target)}>
                {showAllAction.name}
              </button>
            </ActionTip>
            {' · '}
          </>
        )}
        {hidden > 0 && `${grouped(hidden)} of ${grouped(counts.layers)} layers hidden · `}
        {counts.objects === 1 ? '1 object' : `${grouped(counts.objects)} objects`} · {unitNames[unit]}
      </span>
    </footer>
  );
}
