import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { echoIn } from '@gull-pane/core/panes/echo';
import { sharesGrid } from '@gull-pane/core/panes/tie';
import type { ActionTarget } from '../actions/action';
import './echo.css';

/** Where another pane's cursor points, if this pane shows the same place: a ring, or a line where the depth is unknown. */
export function EchoMark({ target }: { readonly target: ActionTarget }): ReactElement | null {
  const { pane, drawing, panes } = target;
  const [id] = useState(() => pane.getState().id);
  const echo = useStore(panes, (state) => (state.echo?.pane === id ? null : state.echo));
  const camera = useStore(pane, (state) => (echo ? state.camera : null));
  const viewport = useStore(pane, (state) => state.viewport);
  const own = useStore(drawing, (state) => state.drawing);
  if (!echo || !camera) return null;
  const { unit, extents, kind } = own;
  if (echo.drawingId !== own.id && !sharesGrid(echo.grid, { unit, extents: extents ?? null })) return null;
  const seen = echoIn({ camera, viewport, kind, extents: extents ?? null }, echo.pointed);
  if (!seen) return null;
  return (
    <svg className="echo" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
      {seen.kind === 'point' ? (
        <g transform={`translate(${seen.at.x} ${seen.at.y})`}>
          <circle className="echo-halo" r={9} />
          <circle r={9} />
          <path d="M-4 0H4M0 -4V4" />
        </g>
      ) : (
        <>
          <path className="echo-halo" d={`M${seen.from.x} ${seen.from.y}L${seen.to.x} ${seen.to.y}`} />
          <path className="echo-line" d={`M${seen.from.x} ${seen.from.y}L${seen.to.x} ${seen.to.y}`} />
        </>
      )}
    </svg>
  );
}
