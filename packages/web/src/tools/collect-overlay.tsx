import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import { length3, sub3, type Vec2, type Vec3 } from '@gull-pane/core/geometry/vec';
import { measureKindOf } from '@gull-pane/core/measure/measure-kinds';
import type { Placed } from '@gull-pane/core/measure/placed';
import type { Snap } from '@gull-pane/core/snap/snap';
import { previewOf } from '../marks/preview';
import { placeUnder } from '../snapping/find-snaps';
import { collectingNow, wayInHand } from '../store/tool-store';
import { AreaPreview } from './area-preview';
import { FiguresTag } from './figures-tag';
import { Dot, Line } from './overlay-lines';
import type { UnitProps } from './unit';

/** A cursor that is nearer to the last point rests on it, CSS px. */
const REST_PX = 0.5;

/** The points of what is measured or drawn: they stand in the drawing and move with the view. */
export function CollectOverlay({ target }: UnitProps): ReactElement | null {
  const { pane, tools } = target;
  const [id] = useState(() => pane.getState().id);
  const isHere = useStore(tools, ({ inPane }) => inPane === null || inPane === id);
  const collect = useStore(tools, ({ states }) => states.collect);
  const collecting = useStore(tools, collectingNow);
  const snap = useStore(tools, (state) => state.snap);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const cursor = useStore(pane, (state) => state.cursor);
  if (collecting === null) return null;
  const seen = (point: Vec3): Vec2 => worldToScreen(camera, viewport, point);
  const next = cursor && !collect.isDone ? (snap ? asPlaced(snap) : placeUnder(target, cursor)) : null;
  const last = collect.points.at(-1);
  // where the cursor still rests on the last point, nothing has been added yet
  const points =
    next && !(last && length3(sub3(last, next)) <= REST_PX * camera.unitsPerPx)
      ? [...collect.points, next]
      : collect.points;
  const lines = collect.points.length === 0 ? [] : previewOf(target, collecting, points);
  const kind = measureKindOf(collecting);
  return (
    <>
      <svg className="tool-lines" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
        {lines.map((line, index) => (
          <Line key={index} points={line.map(seen)} isClosed={kind?.isClosed === true && points.length > 2} />
        ))}
        {collect.points.map((point, k) => (
          <Dot key={k} at={seen(point)} />
        ))}
      </svg>
      {isHere && wayInHand(tools.getState())?.id === 'hatch' && <AreaPreview target={target} />}
      {isHere && kind && points.length > 0 && (
        <FiguresTag {...{ points, seen, viewport, target, kind }} isDone={collect.isDone} />
      )}
    </>
  );
}

const asPlaced = ({ point, normal, round }: Snap): Placed => ({
  ...point,
  ...(normal ? { normal } : {}),
  ...(round ? { round } : {}),
});
