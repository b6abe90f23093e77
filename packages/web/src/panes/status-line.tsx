import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { Prompt } from '../tools/prompt';
import { grouped } from '../pages/figures';

/** The line at the bottom: what to do next at the left, what is open at the right. */
export function StatusLine({ target }: { readonly target: ActionTarget }): ReactElement {
  const { counts, unit } = useStore(target.drawing, (state) => state.drawing);
  const hidden = useStore(target.drawing, (state) => state.hidden.size);
  return (
    <div className="status-line">
      <span className="prompt" role="status" aria-label="Prompt">
        <Prompt target={target} />
      </span>
      <span className="muted">
        {hidden > 0 && `${grouped(hidden)} of ${grouped(counts.layers)} layers hidden · `}
        {grouped(counts.objects)} objects · {unit === 'none' ? 'no unit' : 'millimetres'}
      </span>
    </div>
  );
}
