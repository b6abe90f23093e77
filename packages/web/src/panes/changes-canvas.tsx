import { useEffect, useRef, type ReactElement } from 'react';
import type { Parts } from '../actions/action';
import { showChanges } from './show-changes';

/** What differs between two revisions, over the picture of the later one: what was is broken, what is isn't. */
export function ChangesCanvas({ target }: { readonly target: Parts<'pane' | 'seen' | 'comparison'> }): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => showChanges(canvas.current!, target), [target]);
  return <canvas ref={canvas} className="pane-canvas" aria-hidden />;
}
