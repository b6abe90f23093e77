import { useRef, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { screenToWorld, worldToScreen, type Camera } from '@gull-pane/core/camera/camera';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { frameOnGround } from '@gull-pane/core/panes/frame-seen';
import { groundPlace, type TiedView } from '@gull-pane/core/panes/tie';
import type { CoverageGrid } from '@gull-pane/core/seen/coverage';
import type { Parts } from '../actions/action';
import type { Scene } from '../render/scene/scene';
import { THUMBNAIL } from '../trail/thumbnail-maker';
import { usePlanCamera, usePlanPicture } from './small-plan';
import './overview.css';

/** A frame smaller than this is drawn so large, so that it can be seen and taken, CSS px. */
const LEAST_FRAME_PX = 8;

/** The overview takes so much of its pane's width at most. */
const MOST_SHARE = 0.32;

/** The whole drawing, small, with the frame of what the pane shows; the frame can be dragged. */
export function Overview({
  target,
  scene,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'coverage'>;
  readonly scene: Scene | null;
}): ReactElement | null {
  const isShown = useStore(target.pane, (state) => state.hasOverview);
  return isShown && scene ? <Shown target={target} scene={scene} /> : null;
}

function Shown({
  target,
  scene,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'coverage'>;
  readonly scene: Scene;
}): ReactElement {
  const { pane, drawing } = target;
  const grid = useStore(target.coverage, (state) => (state.isShaded ? state.grid : null));
  const small = usePlanCamera(target);
  const picture = usePlanPicture(target, scene, small, 'overview');
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  // it takes no more than a part of a small pane
  const size = Math.min(1, (MOST_SHARE * viewport.widthPx) / THUMBNAIL.widthPx);
  const { kind, extents } = useStore(drawing, (state) => state.drawing);
  const drag = useRef<Vec2 | null>(null);
  const view: TiedView = { camera, viewport, kind, extents: extents ?? null };
  const middle = kind === 'flat' ? camera.target : groundPlace(view);
  const onSmall = (point: Vec2): Vec2 => worldToScreen(small, THUMBNAIL, { ...point, z: small.target.z });
  const frame = frameOnGround(view)?.map(onSmall);
  const { x, y } = onSmall(middle);

  /** The view with its middle at a place of the small plan. */
  const at = (event: PointerEvent<HTMLElement>): Camera => {
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [(event.clientX - box.left) / size, (event.clientY - box.top) / size];
    const place = screenToWorld(small, THUMBNAIL, { x, y });
    const own = { ...view, camera: pane.getState().camera };
    const from = kind === 'flat' ? own.camera.target : groundPlace(own);
    const { target: was } = own.camera;
    return { ...own.camera, target: { ...was, x: was.x + place.x - from.x, y: was.y + place.y - from.y } };
  };
  const press = (event: PointerEvent<HTMLElement>): void => {
    drag.current = { x: event.clientX, y: event.clientY };
    event.currentTarget.setPointerCapture(event.pointerId);
    pane.getState().dragTo(at(event));
  };
  const release = (event: PointerEvent<HTMLElement>): void => {
    if (!drag.current) return;
    drag.current = null;
    pane.getState().apply({ kind: 'dragEnd' }, event.timeStamp);
  };
  return (
    <div
      className="overview"
      role="img"
      aria-label="Overview: the whole drawing with the frame of this pane; drag the frame"
      style={{ width: THUMBNAIL.widthPx * size, height: THUMBNAIL.heightPx * size }}
      onPointerDown={press}
      onPointerMove={(event) => drag.current && pane.getState().dragTo(at(event))}
      onPointerUp={release}
      onPointerCancel={release}
    >
      {picture !== undefined && <img src={picture} alt="" draggable={false} />}
      <svg viewBox={`0 0 ${THUMBNAIL.widthPx} ${THUMBNAIL.heightPx}`} width="100%" height="100%" aria-hidden>
        {grid && <path className="overview-unseen" d={unseenOf(grid, onSmall)} />}
        {frame && <polygon points={frame.map((corner) => `${corner.x},${corner.y}`).join(' ')} />}
        <circle cx={x} cy={y} r={frame && widthOf(frame) > LEAST_FRAME_PX ? 1.5 : LEAST_FRAME_PX / 2} />
      </svg>
    </div>
  );
}

/** The cells of which something is unseen, as one path. */
function unseenOf({ box, columns, rows, unseen }: CoverageGrid, onSmall: (point: Vec2) => Vec2): string {
  const [cellX, cellY] = [(box.maxX - box.minX) / columns, (box.maxY - box.minY) / rows];
  const cells: string[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      if (unseen[row * columns + column]! <= 0) continue;
      const low = onSmall({ x: box.minX + column * cellX, y: box.minY + row * cellY });
      const high = onSmall({ x: box.minX + (column + 1) * cellX, y: box.minY + (row + 1) * cellY });
      cells.push(`M${low.x} ${low.y}H${high.x}V${high.y}H${low.x}Z`);
    }
  return cells.join('');
}

const widthOf = (corners: readonly Vec2[]): number => {
  const xs = corners.map(({ x }) => x);
  return Math.max(...xs) - Math.min(...xs);
};
