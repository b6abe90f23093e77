import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import { slopeOf } from '@gull-pane/core/camera/twist';
import { placeUnder } from '../snapping/find-snaps';
import { toolInHand } from '../store/tool-store';
import { BesideTag } from './beside-tag';
import { Line } from './overlay-lines';
import type { UnitProps } from './unit';
import { shownDecimals } from '../basics/decimals';

/** The line that would lie level, and how far it is from that. */
export function LevelOverlay({ target }: UnitProps): ReactElement | null {
  const { pane, tools } = target;
  const from = useStore(tools, ({ states }) => states.level.from);
  const snap = useStore(tools, (state) => state.snap);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const cursor = useStore(pane, (state) => state.cursor);
  const isInHand = useStore(tools, (state) => toolInHand(state) === 'level');
  const to = cursor && (snap?.point ?? placeUnder(target, cursor));
  const ends = from && to ? ([from, to] as const) : isInHand && snap?.line;
  if (!ends || !cursor) return null;
  const degrees = Math.abs(slopeOf(camera, ...ends)) * (180 / Math.PI);
  return (
    <>
      <svg className="tool-lines" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
        <Line points={ends.map((end) => worldToScreen(camera, viewport, end))} />
      </svg>
      <BesideTag at={cursor} viewport={viewport} className="figures" label="Slope">
        {shownDecimals(degrees.toFixed(2))}° from level
      </BesideTag>
    </>
  );
}
