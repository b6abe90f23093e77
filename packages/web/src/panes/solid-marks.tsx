import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { cameraAxes, worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import { dot3, sub3, type Vec2 } from '@gull-pane/core/geometry/vec';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { lengthText } from '../basics/figures';
import type { Parts } from '../actions/action';

/** So far inside the edge the tick stands, CSS px. */
const INSET_PX = 14;
/** In narrower panes the words would lie over the drawing, CSS px. */
const ROOM_FOR_WORDS_PX = 420;
const ORIGIN = { x: 0, y: 0, z: 0 };

/** The origin isn't shown when it is farther away than this many sizes of the drawing. */
const FAR = 10;

function isNearOrigin(extents: DrawingDto['extents']): boolean {
  if (!extents) return true;
  const { min, max } = extents;
  const size = Math.hypot(max.x - min.x, max.y - min.y, max.z - min.z);
  const away = Math.hypot((min.x + max.x) / 2, (min.y + max.y) / 2, (min.z + max.z) / 2);
  return away <= FAR * size;
}

/** What a solid shows over its picture: the pivot while it turns, and the origin or the way to it. */
export function SolidMarks({
  target: { pane, drawing },
}: {
  readonly target: Parts<'pane' | 'drawing'>;
}): ReactElement {
  const { unit, extents } = useStore(drawing, (state) => state.drawing);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const pivot = useStore(pane, (state) => state.pivot);
  const turned = pivot && worldToScreen(camera, viewport, pivot);
  return (
    <svg className="solid-marks" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
      {isNearOrigin(extents) && <OriginMark camera={camera} viewport={viewport} unit={unit} />}
      {turned && (
        <g className="pivot-mark" transform={`translate(${turned.x} ${turned.y})`}>
          <circle r={9} />
          <path d="M-14 0h8M6 0h8M0 -14v8M0 6v8" />
        </g>
      )}
    </svg>
  );
}

function OriginMark({
  camera,
  viewport,
  unit,
}: {
  readonly camera: Camera;
  readonly viewport: Viewport;
  readonly unit: DrawingUnit;
}): ReactElement | null {
  if (viewport.widthPx === 0) return null;
  const { widthPx, heightPx } = viewport;
  const at = worldToScreen(camera, viewport, ORIGIN);
  if (at.x >= 0 && at.y >= 0 && at.x <= widthPx && at.y <= heightPx)
    return (
      <g className="origin-mark" transform={`translate(${at.x} ${at.y})`}>
        <circle r={5} />
        <text x={10} y={4}>
          Origin
        </text>
      </g>
    );
  const { right, up } = cameraAxes(camera);
  const offset = sub3(ORIGIN, camera.target);
  const way = { x: dot3(offset, right), y: -dot3(offset, up) };
  const edge = atEdge(way, widthPx, heightPx);
  const angle = (Math.atan2(way.y, way.x) * 180) / Math.PI;
  const distance = Number(Math.hypot(offset.x, offset.y, offset.z).toPrecision(3));
  const isLeft = edge.x < widthPx / 2;
  return (
    <g className="origin-mark">
      <path d="M-9 0h12M-3 -5l6 5l-6 5" transform={`translate(${edge.x} ${edge.y}) rotate(${angle})`} />
      {widthPx >= ROOM_FOR_WORDS_PX && (
        <text
          x={edge.x + (isLeft ? 12 : -12)}
          y={Math.min(Math.max(edge.y + 4, 16), heightPx - 6)}
          textAnchor={isLeft ? 'start' : 'end'}
        >
          Origin {lengthText(distance, unit)}
        </text>
      )}
    </g>
  );
}

/** Where the way from the pane's middle leaves it. */
function atEdge({ x, y }: Vec2, widthPx: number, heightPx: number): Vec2 {
  const [halfX, halfY] = [widthPx / 2 - INSET_PX, heightPx / 2 - INSET_PX];
  const share = Math.min(halfX / Math.max(Math.abs(x), 1e-9), halfY / Math.max(Math.abs(y), 1e-9));
  return { x: widthPx / 2 + x * share, y: heightPx / 2 + y * share };
}
