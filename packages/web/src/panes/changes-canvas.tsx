import { useEffect, useRef, type ReactElement } from 'react';
import type { ActionTarget } from '../actions/action';
import { showChanges } from './show-changes';

/** What differs between two revisions, over the picture of the later one: what was is broken, what is isn't. */
export function ChangesCanvas({ target }: { readonly target: ActionTarget }): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => showChanges(canvas.current!, target), [target]);
  return <canvas ref={canvas} className="pane-canvas" aria-hidden />;
}
