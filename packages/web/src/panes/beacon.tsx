import { ArrowUp } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen, type Viewport } from '@gull-pane/core/camera/camera';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import type { Parts } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { grouped, lengthText } from '../basics/figures';
import { returnAction } from '../actions/sight-actions';

/** So far from the pane's edge the beacon stands, CSS px. */
const INSET_PX = 30;

/** While nothing of the drawing is in the pane: which way it lies and how far, and the way back. */
export function Beacon({ target }: { readonly target: Parts<'pane' | 'drawing' | 'sight'> }): ReactElement | null {
  const isLost = useStore(target.sight, (state) => state.isLost);
  const isFlying = useStore(target.pane, (state) => state.isFlying);
  return isLost && !isFlying ? <Shown target={target} /> : null;
}

function Shown({ target }: { readonly target: Parts<'pane' | 'drawing' | 'sight'> }): ReactElement {
  const { pane, sight, drawing } = target;
  const nearest = useStore(sight, (state) => state.nearest);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const { unit } = useStore(drawing, (state) => state.drawing);
  const key = shownKey(useBindings()[returnAction.id] ?? []);
  const seen = nearest && worldToScreen(camera, viewport, { z: camera.target.z, ...nearest });
  // what lies behind the eye is nowhere on the screen
  const away = seen && Number.isFinite(seen.x) ? seen : null;
  const beyondPx = away ? distanceToPane(away, viewport) : 0;
  return (
    <>
      {away && (
        <button
          type="button"
          className="beacon"
          style={placeAtEdge(away, viewport)}
          aria-label={`The nearest of the drawing, ${farText(beyondPx * camera.unitsPerPx, unit)} away: go there`}
          onClick={() => sight.getState().goToNearest()}
        >
          <ArrowUp size={18} aria-hidden style={{ transform: `rotate(${turnTo(away, viewport)}rad)` }} />
          <span className="figures">{farText(beyondPx * camera.unitsPerPx, unit)}</span>
        </button>
      )}
      <div className="lost-line" role="status" aria-label="Lost">
        {nearest ? 'Nothing of the drawing is in sight here.' : 'Everything is hidden.'}
        <button type="button" className="lost-back" onClick={() => sight.getState().returnToContent()}>
          Back to where something was {key !== undefined && <KeyCaps keyName={key} />}
        </button>
      </div>
    </>
  );
}

const farText = (length: number, unit: DrawingUnit): string =>
  unit === 'none' ? grouped(Number(length.toPrecision(3))) : lengthText(Number(length.toPrecision(3)), unit);

/** How far a place on the screen is from the pane, CSS px; from its middle where it lies within. */
function distanceToPane({ x, y }: Vec2, { widthPx, heightPx }: Viewport): number {
  const dx = Math.max(-x, x - widthPx, 0);
  const dy = Math.max(-y, y - heightPx, 0);
  return Math.hypot(dx, dy);
}

const turnTo = ({ x, y }: Vec2, { widthPx, heightPx }: Viewport): number =>
  Math.atan2(y - heightPx / 2, x - widthPx / 2) + Math.PI / 2;

/** Where the line from the pane's middle to a place leaves the pane. */
function placeAtEdge({ x, y }: Vec2, { widthPx, heightPx }: Viewport): { left: number; top: number } {
  const [halfX, halfY] = [widthPx / 2, heightPx / 2];
  const [dx, dy] = [x - halfX, y - halfY];
  const share = Math.min((halfX - 2 * INSET_PX) / Math.abs(dx), (halfY - INSET_PX) / Math.abs(dy), 1);
  return { left: halfX + dx * share, top: halfY + dy * share };
}
