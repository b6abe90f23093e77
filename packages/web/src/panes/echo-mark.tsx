import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { screenToWorld, type ScreenPoint } from '@gull-pane/core/camera/camera';
import { echoIn } from '@gull-pane/core/panes/echo';
import { sharesGrid } from '@gull-pane/core/panes/tie';
import { panesOf } from '@gull-pane/core/panes/tiling';
import type { Parts } from '../actions/action';
import { usePreferences } from '../store/preferences-store';
import './echo.css';

/** So long after a cursor has left, one can still go where it pointed, ms. */
const LINGERS_MS = 6000;

/** Where another pane's cursor points, if this pane shows the same place: a ring, or a line where the depth is unknown. */
export function EchoMark({ target }: { readonly target: Parts<'pane' | 'drawing' | 'panes'> }): ReactElement | null {
  const { pane, drawing, panes } = target;
  const [id] = useState(() => pane.getState().id);
  const now = useStore(panes, (state) => (state.echo?.pane === id ? null : state.echo));
  const past = useStore(panes, (state) => (state.pastEcho?.pane === id ? null : state.pastEcho));
  const isOn = usePreferences((state) => state.echoes);
  // where the other cursor pointed shows once this one comes here
  const isPointedAt = useStore(pane, (state) => state.cursor !== null);
  const echo = isOn ? (now ?? (isPointedAt ? past : null)) : null;
  const camera = useStore(pane, (state) => (echo ? state.camera : null));
  const viewport = useStore(pane, (state) => state.viewport);
  const own = useStore(drawing, (state) => state.drawing);
  useEffect(() => {
    if (!past) return undefined;
    const timer = setTimeout(panes.getState().forgetPastEcho, LINGERS_MS);
    return () => clearTimeout(timer);
  }, [panes, past]);
  if (!echo || !camera) return null;
  const { unit, extents, kind } = own;
  if (echo.drawingId !== own.id && !sharesGrid(echo.grid, { unit, extents: extents ?? null })) return null;
  const seen = echoIn({ camera, viewport, kind, extents: extents ?? null }, echo.pointed);
  if (!seen) return null;
  const follow = (at: ScreenPoint): void => {
    const { pointed } = echo;
    panes.getState().forgetPastEcho();
    panes.getState().activate(id);
    const place = 'point' in pointed && kind === 'solid' ? pointed.point : screenToWorld(camera, viewport, at);
    pane.getState().travel((from) => ({ ...from, target: { ...from.target, ...place } }));
  };
  return (
    <>
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
      {seen.kind === 'point' && !now && (
        <button
          type="button"
          className="echo-go"
          aria-label={`Go to where the cursor pointed in pane ${panesOf(panes.getState().tiling).indexOf(echo.pane) + 1}`}
          style={{ left: seen.at.x, top: seen.at.y }}
          onClick={() => follow(seen.at)}
        />
      )}
    </>
  );
}
