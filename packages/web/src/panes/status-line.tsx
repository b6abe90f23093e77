import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { KeyCaps } from '../actions/action-tip';
import { grouped } from '../pages/figures';
import type { DrawingStore } from '../store/drawing-store';
import type { PaneStore } from '../store/pane-store';

/** The line at the bottom: what to do next at the left, what is open at the right. */
export function StatusLine({
  drawing,
  pane,
}: {
  readonly drawing: DrawingStore;
  readonly pane: PaneStore;
}): ReactElement {
  const tool = useStore(pane, (state) => state.tool);
  const hasCorner = useStore(pane, (state) => state.frame !== null);
  const { counts, unit } = useStore(drawing, (state) => state.drawing);
  const hidden = useStore(drawing, (state) => state.hidden.size);
  return (
    <div className="status-line">
      <span className="prompt" role="status">
        {tool === 'none' ? <Hint /> : hasCorner ? <SecondCorner /> : <FirstCorner />}
      </span>
      <span className="muted">
        {hidden > 0 && `${grouped(hidden)} of ${grouped(counts.layers)} layers hidden · `}
        {grouped(counts.objects)} objects · {unit === 'none' ? 'no unit' : 'millimetres'}
      </span>
    </div>
  );
}

const FirstCorner = (): ReactElement => (
  <>
    Click a corner of the area, or drag across it. <KeyCaps keyName="Escape" /> leaves.
  </>
);

const SecondCorner = (): ReactElement => (
  <>
    Click the opposite corner; the wheel still zooms. <KeyCaps keyName="Escape" /> takes the first corner back.
  </>
);

const hints: readonly ReactElement[] = [
  <>Turn the wheel to zoom about the cursor; press it and drag to pan, press it twice to fit all.</>,
  <>
    <KeyCaps keyName="c" /> frames two corners, <KeyCaps keyName="a" /> fits all, <KeyCaps keyName="Backspace" /> goes
    back.
  </>,
];
const HINT_MS = 12_000;

function Hint(): ReactElement {
  const [index, setIndex] = useState(0);
  useEffect(() => {
    const timer = window.setInterval(() => setIndex((value) => (value + 1) % hints.length), HINT_MS);
    return () => window.clearInterval(timer);
  }, []);
  return hints[index]!;
}
