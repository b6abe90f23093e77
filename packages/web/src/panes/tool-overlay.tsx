import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen, type Viewport } from '@gull-pane/core/camera/camera';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import { figureText, type FigureStyle } from '@gull-pane/core/measure/figures';
import { measureKindOf } from '@gull-pane/core/measure/measure-kinds';
import type { Placed } from '@gull-pane/core/measure/placed';
import type { Snap } from '@gull-pane/core/snap/snap';
import type { ActionTarget } from '../actions/action';
import { previewOf } from '../marks/preview';
import { placeUnder } from '../snapping/find-snaps';
import { collectingNow, machineOf, toolInHand } from '../store/tool-store';
import { useFigureStyle } from '../tools/figure-style';

/** What the tools show over the drawing: their points stand in it and move with the view. */
export function ToolOverlay({ target }: { readonly target: ActionTarget }): ReactElement {
  const { pane, tools } = target;
  const [id] = useState(() => pane.getState().id);
  const isHere = useStore(tools, ({ inPane }) => inPane === null || inPane === id);
  const { frame, level, collect } = useStore(tools, (state) => state.states);
  const collecting = useStore(tools, collectingNow);
  const snaps = useStore(tools, (state) => {
    const inHand = toolInHand(state);
    return inHand !== null && machineOf(inHand, state).snaps === true;
  });
  const snap = useStore(tools, (state) => state.snap);
  const others = useStore(tools, ({ near }) => (near?.snaps.length ?? 1) - 1);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const cursor = useStore(pane, (state) => state.cursor);
  const seen = (point: Vec3): Vec2 => worldToScreen(camera, viewport, point);
  const next = cursor && (snap ? asPlaced(snap) : placeUnder(target, cursor));
  const kind = collecting === null ? undefined : measureKindOf(collecting);
  const isDone = collect.isDone || collecting === null;
  const points = next && !isDone ? [...collect.points, next] : collect.points;
  const lines = collecting === null || collect.points.length === 0 ? [] : previewOf(target, collecting, points);
  return (
    <>
      {isHere && frame.corner && frame.to && <FrameBox from={seen(frame.corner)} to={frame.to} />}
      <svg className="tool-lines" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
        {level.from && next && <Line points={[level.from, next].map(seen)} />}
        {lines.map((line, index) => (
          <Line key={index} points={line.map(seen)} isClosed={kind?.isClosed === true && points.length > 2} />
        ))}
        {collecting !== null && collect.points.map((point, k) => <Dot key={k} at={seen(point)} />)}
        {snap && cursor && snaps && <circle className="snap-ring" {...centre(seen(snap.point))} r={8} />}
      </svg>
      {snap && cursor && snaps && (
        <span className="tool-tag snap-word" style={wordPlace(seen(snap.point))}>
          <span>
            <b>{snap.kind}</b>
            {others > 0 && <span className="snap-others"> +{others}</span>}
          </span>
        </span>
      )}
      {isHere && kind && points.length > 0 && (
        <FiguresTag {...{ points, seen, viewport, target }} kind={kind.id} name={kind.name} />
      )}
    </>
  );
}

const asPlaced = ({ point, normal, round }: Snap): Placed => ({
  ...point,
  ...(normal ? { normal } : {}),
  ...(round ? { round } : {}),
});

const centre = ({ x, y }: Vec2): { cx: number; cy: number } => ({ cx: kept(x), cy: kept(y) });
const Dot = ({ at }: { readonly at: Vec2 }): ReactElement | null =>
  Number.isFinite(at.x) ? <circle {...centre(at)} r={3.5} /> : null;

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
  isClosed = false,
}: {
  readonly points: readonly Vec2[];
  readonly isClosed?: boolean;
}): ReactElement | null {
  // what lies behind the eye has no place on the screen
  if (points.some(({ x }) => Number.isNaN(x))) return null;
  const told = points.map(({ x, y }) => `${kept(x)},${kept(y)}`).join(' ');
  return isClosed ? <polygon className="tool-area" points={told} /> : <polyline points={told} />;
}

interface FiguresTagProps {
  readonly kind: string;
  readonly name: string;
  readonly points: readonly Placed[];
  readonly seen: (point: Vec3) => Vec2;
  readonly viewport: Viewport;
  readonly target: ActionTarget;
}

/** What is measured, beside the last point: the first figure large, the others below. */
function FiguresTag({ kind, name, points, seen, viewport, target }: FiguresTagProps): ReactElement | null {
  const style: FigureStyle = useFigureStyle(target);
  const figures = measureKindOf(kind)?.figures(points);
  const at = seen(points.at(-1)!);
  if (!figures || Number.isNaN(at.x)) return null;
  const [first, ...rest] = figures;
  return (
    <div className="tool-tag figures" role="status" aria-label={name} style={tagPlace(at, viewport, 18)}>
      <strong>{figureText(first!, style)}</strong>
      {inRows(rest).map((row, index) => (
        <span key={index}>{row.map((figure) => `${figure.name} ${figureText(figure, style)}`).join(' · ')}</span>
      ))}
    </div>
  );
}

/** Short names stand together in a row. */
function inRows<T extends { readonly name: string }>(figures: readonly T[]): T[][] {
  const rows: T[][] = [];
  for (const figure of figures) {
    const last = rows.at(-1);
    const isShort = (one: T): boolean => one.name.length <= 7;
    if (last && last.length < 4 && isShort(figure) && last.every(isShort)) last.push(figure);
    else rows.push([figure]);
  }
  return rows;
}

/** Above a ring, so that what is measured has its place below. */
const wordPlace = ({ x, y }: Vec2): Record<string, number> => ({ left: Math.max(x + 12, 4), top: Math.max(y - 34, 4) });

/** Beside a point, on the side where there is room. */
function tagPlace({ x, y }: Vec2, { widthPx, heightPx }: Viewport, gap: number): Record<string, number> {
  return {
    ...(x < widthPx - 300 ? { left: Math.max(x + gap, 4) } : { right: Math.max(widthPx - x + gap, 4) }),
    ...(y < heightPx - 130 ? { top: Math.max(y + gap, 4) } : { bottom: Math.max(heightPx - y + gap, 4) }),
  };
}
