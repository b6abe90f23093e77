import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { screenToWorld, worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { formatBearing } from '@gull-pane/core/camera/twist';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import type { Snap } from '@gull-pane/core/snap/snap';
import { legBetween, lengthOf } from '@gull-pane/core/tools/distance';
import { exactText } from '../pages/figures';
import type { ActionTarget } from '../actions/action';
import { toolInHand } from '../store/tool-store';

/** What the tools show over the drawing: their points stand in it and move with the view. */
export function ToolOverlay({ target }: { readonly target: ActionTarget }): ReactElement {
  const { pane, tools } = target;
  const { unit } = useStore(target.drawing, (state) => state.drawing);
  const [id] = useState(() => pane.getState().id);
  const isHere = useStore(tools, ({ inPane }) => inPane === null || inPane === id);
  const { frame, level, distance } = useStore(tools, (state) => state.states);
  const inHand = useStore(tools, toolInHand);
  const snap = useStore(tools, (state) => state.snap);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const cursor = useStore(pane, (state) => state.cursor);
  const seen = (point: Vec3): Vec2 => worldToScreen(camera, viewport, point);
  const next = cursorPoint(camera, viewport, cursor, snap);
  return (
    <>
      {isHere && frame.corner && frame.to && <FrameBox from={seen(frame.corner)} to={frame.to} />}
      <svg className="tool-lines" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
        {level.from && next && <Line points={[level.from, next].map(seen)} />}
        {distance.points.length > 0 && (
          <Line points={[...distance.points, ...(distance.isDone || !next ? [] : [next])].map(seen)} isDotted />
        )}
        {snap && cursor && (inHand === 'distance' || inHand === 'level') && (
          <circle className="snap-ring" {...centre(seen({ ...snap.point, z: camera.target.z }))} r={8} />
        )}
      </svg>
      {snap && cursor && (inHand === 'distance' || inHand === 'level') && (
        <span className="tool-tag snap-word" style={wordPlace(seen({ ...snap.point, z: camera.target.z }))}>
          {snap.kind}
        </span>
      )}
      {isHere && (
        <DistanceTag points={distance.points} next={distance.isDone ? null : next} {...{ seen, viewport, unit }} />
      )}
    </>
  );
}

function cursorPoint(camera: Camera, viewport: Viewport, cursor: Vec2 | null, snap: Snap | null): Vec3 | null {
  if (snap) return { ...snap.point, z: camera.target.z };
  return cursor ? screenToWorld(camera, viewport, cursor) : null;
}

const centre = ({ x, y }: Vec2): { cx: number; cy: number } => ({ cx: x, cy: y });

function FrameBox({ from, to }: { readonly from: Vec2; readonly to: Vec2 }): ReactElement {
  const style = {
    left: Math.min(from.x, to.x),
    top: Math.min(from.y, to.y),
    width: Math.abs(from.x - to.x),
    height: Math.abs(from.y - to.y),
  };
  return <div className="frame-overlay" style={style} />;
}

/** Far outside the pane a browser's lines lose their way: ends are kept within so many px. */
const FARTHEST_PX = 1e5;
const kept = (value: number): number => Math.min(Math.max(value, -FARTHEST_PX), FARTHEST_PX);

function Line({
  points,
  isDotted = false,
}: {
  readonly points: readonly Vec2[];
  readonly isDotted?: boolean;
}): ReactElement {
  return (
    <>
      <polyline points={points.map(({ x, y }) => `${kept(x)},${kept(y)}`).join(' ')} />
      {isDotted && points.map((point, index) => <circle key={index} {...centre(point)} r={3.5} />)}
    </>
  );
}

interface DistanceTagProps {
  readonly points: readonly Vec3[];
  readonly next: Vec3 | null;
  readonly seen: (point: Vec3) => Vec2;
  readonly viewport: Viewport;
  readonly unit: string;
}

/** What was measured, beside the last point: the last leg in full, the whole way where there is more than one. */
function DistanceTag({ points, next, seen, viewport, unit }: DistanceTagProps): ReactElement | null {
  const all = next ? [...points, next] : points;
  if (points.length === 0 || all.length < 2) return null;
  const [from, to] = all.slice(-2) as [Vec3, Vec3];
  const { length, east, north, bearingRad } = legBetween(from, to);
  const suffix = unit === 'none' ? '' : ` ${unit}`;
  return (
    <div className="tool-tag figures" role="status" aria-label="Distance" style={tagPlace(seen(to), viewport, 18)}>
      <strong>
        {exactText(length)}
        {suffix}
      </strong>
      <span>
        E {exactText(east)} · N {exactText(north)} · {formatBearing(bearingRad)}
      </span>
      {all.length > 2 && (
        <span>
          whole way {exactText(lengthOf(all))}
          {suffix}
        </span>
      )}
    </div>
  );
}

/** Above a ring, so that what is measured has its place below. */
const wordPlace = ({ x, y }: Vec2): Record<string, number> => ({ left: Math.max(x + 12, 4), top: Math.max(y - 34, 4) });

/** Beside a point, on the side where there is room. */
function tagPlace({ x, y }: Vec2, { widthPx, heightPx }: Viewport, gap: number): Record<string, number> {
  return {
    ...(x < widthPx - 260 ? { left: Math.max(x + gap, 4) } : { right: Math.max(widthPx - x + gap, 4) }),
    ...(y < heightPx - 90 ? { top: Math.max(y + gap, 4) } : { bottom: Math.max(heightPx - y + gap, 4) }),
  };
}
