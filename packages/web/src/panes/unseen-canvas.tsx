import { useEffect, useRef, type ReactElement } from 'react';
import type { Parts } from '../actions/action';
import { showUnseen } from './show-unseen';

/** What hasn't been seen, hatched over the picture. */
export function UnseenCanvas({ target }: { readonly target: Parts<'pane' | 'coverage'> }): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => showUnseen(canvas.current!, target), [target]);
  return <canvas ref={canvas} className="pane-canvas" aria-hidden />;
}
