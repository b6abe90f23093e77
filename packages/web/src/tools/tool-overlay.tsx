import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { machineOf, toolInHand } from '../store/tool-store';
import { centre } from './overlay-lines';
import { toolUnits } from './tool-units';
import type { OverlayProps, UnitProps } from './unit';

const overlays = Object.entries(toolUnits).flatMap(([id, { Overlay }]) => (Overlay ? [{ id, Overlay }] : []));

/** What the tools show over the drawing. */
export const ToolOverlay = ({ target, scene }: OverlayProps): ReactElement => (
  <>
    {overlays.map(({ id, Overlay }) => (
      <Overlay key={id} target={target} scene={scene} />
    ))}
    <SnapMark target={target} />
  </>
);

/** What the cursor is drawn to. */
function SnapMark({ target: { pane, tools } }: UnitProps): ReactElement | null {
  const snaps = useStore(tools, (state) => {
    const inHand = toolInHand(state);
    return inHand !== null && machineOf(inHand, state).snaps === true;
  });
  const asksLine = useStore(tools, (state) => toolInHand(state) === 'level');
  const snap = useStore(tools, (state) => state.snap);
  const others = useStore(tools, ({ near }) => (near?.snaps.length ?? 1) - 1);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const cursor = useStore(pane, (state) => state.cursor);
  if (!snap || !cursor || !snaps) return null;
  const at = worldToScreen(camera, viewport, snap.point);
  return (
    <>
      <svg className="tool-lines" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
        <circle className="snap-ring" {...centre(at)} r={8} />
      </svg>
      <span className="tool-tag snap-word" style={wordPlace(at)}>
        <span>
          <b>{asksLine && snap.line ? 'line' : snap.kind}</b>
          {others > 0 && <span className="snap-others"> +{others}</span>}
        </span>
      </span>
    </>
  );
}

/** Above a ring, so that what is measured has its place below. */
const wordPlace = ({ x, y }: Vec2): Record<string, number> => ({ left: Math.max(x + 12, 4), top: Math.max(y - 34, 4) });
