import { Ellipsis } from 'lucide-react';
import { useRef, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget, Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { showAllAction } from '../actions/show-actions';
import { PopoverButton } from '../controls/popover-button';
import { useRoom } from '../controls/use-room';
import { Prompt } from '../tools/prompt';
import { FiguresButton } from '../tools/figures-button';
import { SnapsButton } from '../tools/snaps-button';
import { SavingMark } from './saving-mark';
import { FirstHints } from '../help/first-hints';
import { grouped } from '../basics/figures';
import './status-line.css';

const unitNames = { mm: 'millimetres', m: 'metres', in: 'inches', ft: 'feet', none: 'no unit' } as const;

/** What makes room for the prompt, the least needed first; from `counts` on, a button has it all. */
const LEAST_NEEDED = ['hint', 'counts', 'tools'] as const;

/** The line at the bottom: what to do next at the left, what is open at the right. */
export function StatusLine({ target }: { readonly target: ActionTarget }): ReactElement {
  const { id } = useStore(target.drawing, (state) => state.drawing);
  const line = useRef<HTMLElement>(null);
  useRoom(line, LEAST_NEEDED, 'width');
  return (
    <footer ref={line} className="status-line" aria-label="Status">
      <span className="prompt" role="status" aria-label="Prompt">
        <Prompt target={target} />
      </span>
      {/* their panels are about one drawing and close with it */}
      <SnapsButton key={`snaps ${id}`} target={target} />
      <FiguresButton key={`figures ${id}`} target={target} />
      <FirstHints target={target} />
      <SavingMark />
      <Hidden target={target} />
      <Counts target={target} />
      <PopoverButton
        key={`more ${id}`}
        className="foot-button status-more"
        label="More: snaps, figures and counts"
        placement="topRight"
        tip={{ name: 'More: snaps, figures and counts', sentence: 'What the bottom line has no room for now.' }}
        content={() => (
          <div className="status-more-panel">
            <SnapsButton target={target} />
            <FiguresButton target={target} />
            <Counts target={target} />
          </div>
        )}
      >
        <Ellipsis size={16} aria-hidden />
      </PopoverButton>
    </footer>
  );
}

/** What is hidden, and the way to show it again. */
function Hidden({ target }: { readonly target: Parts<'pane'> }): ReactElement | null {
  const count = useStore(target.pane, ({ shown }) => shown.hiddenObjects?.count ?? 0);
  if (count === 0) return null;
  return (
    <span className="status-counts">
      <strong>{count === 1 ? '1 object' : `${grouped(count)} objects`} hidden</strong>
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
    </span>
  );
}

/** How much there is in the drawing. */
function Counts({ target }: { readonly target: Parts<'pane' | 'drawing'> }): ReactElement {
  const { counts, unit } = useStore(target.drawing, (state) => state.drawing);
  const hidden = useStore(target.pane, ({ shown }) => shown.hiddenLayers.size);
  return (
    <span className="status-counts status-least muted">
      {hidden > 0 && `${grouped(hidden)} of ${grouped(counts.layers)} layers hidden · `}
      {counts.objects === 1 ? '1 object' : `${grouped(counts.objects)} objects`} · {unitNames[unit]}
    </span>
  );
}
