import { useEffect, useRef, type ReactElement } from 'react';
import type { Parts } from '../actions/action';
import { showMarks } from './show-marks';

/** Marks on top of a pane's picture. */
export function MarksCanvas({
  target,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'seen' | 'areas' | 'marks' | 'tools'>;
}): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => showMarks(canvas.current!, target), [target]);
  return <canvas ref={canvas} className="pane-canvas" aria-hidden />;
}
