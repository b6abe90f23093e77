import { useEffect, useRef, type ReactElement } from 'react';
import type { ActionTarget } from '../actions/action';
import { showMarks } from './show-marks';

/** Marks on top of a pane's picture. */
export function MarksCanvas({ target }: { readonly target: ActionTarget }): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => showMarks(canvas.current!, target), [target]);
  return <canvas ref={canvas} className="pane-canvas" aria-hidden />;
}
