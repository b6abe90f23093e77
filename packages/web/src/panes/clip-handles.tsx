import { useRef, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { facesOf, type ClipFace, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { along3, type Vec2, type Vec3 } from '@gull-pane/core/geometry/vec';
import { lengthText } from '../basics/figures';
import type { Parts } from '../actions/action';
import '../shelf/clips.css';

/** So long is the arm of a plane's handle, CSS px. */
const ARM_PX = 46;
/** A side that is seen so nearly from the front can't be drawn by its handle, CSS px a px of the view. */
const LEAST_SLOPE = 0.12;

/** The sides of the chosen volume, each with a handle that draws it along its normal. */
export function ClipHandles({ target }: { readonly target: Parts<'pane' | 'drawing' | 'clips'> }): ReactElement | null {
  const { clips, pane } = target;
  const chosen = useStore(clips, (state) => state.chosen);
  const volume = useStore(pane, ({ shown }) => shown.clips.find(({ id, isOn }) => id === chosen && isOn));
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  if (!volume) return null;
  const seen = (point: Vec3): Vec2 => worldToScreen(camera, viewport, point);
  return (
    <svg className="clip-handles" width={viewport.widthPx} height={viewport.heightPx}>
      {volume.kind === 'box' && <Frame volume={volume} seen={seen} />}
      {facesOf(volume).map((face, index) => (
        <Handle key={index} {...{ target, volume, face, index, camera, viewport }} />
      ))}
    </svg>
  );
}

function Frame({ volume, seen }: { readonly volume: ClipVolume; readonly seen: (point: Vec3) => Vec2 }): ReactElement {
  const paths = facesOf(volume).map(({ middle, u, v, halfU, halfV }) => {
    const corners = [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ].map(([a, b]) => seen(along3(along3(middle, u, a! * halfU), v, b! * halfV)));
    return corners.every(({ x }) => Number.isFinite(x)) ? `M${corners.map(({ x, y }) => `${x} ${y}`).join('L')}Z` : '';
  });
  return <path className="clip-frame" d={paths.join('')} />;
}

const faceNames = ['low X', 'high X', 'low Y', 'high Y', 'bottom', 'top'];

function Handle({
  target,
  volume,
  face,
  index,
  camera,
  viewport,
}: {
  readonly target: Parts<'drawing' | 'clips'>;
  readonly volume: ClipVolume;
  readonly face: ClipFace;
  readonly index: number;
  readonly camera: Camera;
  readonly viewport: Viewport;
}): ReactElement | null {
  const last = useRef<Vec2 | null>(null);
  const at = worldToScreen(camera, viewport, face.middle);
  const out = worldToScreen(camera, viewport, along3(face.middle, face.normal, camera.unitsPerPx));
  const slope = { x: out.x - at.x, y: out.y - at.y };
  const steep = Math.hypot(slope.x, slope.y);
  if (!Number.isFinite(steep)) return null;
  const isSeenFlat = steep < LEAST_SLOPE;
  const tip =
    volume.kind === 'plane' && !isSeenFlat
      ? { x: at.x + (slope.x / steep) * ARM_PX, y: at.y + (slope.y / steep) * ARM_PX }
      : at;
  const move = (event: PointerEvent): void => {
    if (!last.current) return;
    const to = { x: event.clientX, y: event.clientY };
    const way = { x: to.x - last.current.x, y: to.y - last.current.y };
    last.current = to;
    const px = (way.x * slope.x + way.y * slope.y) / (steep * steep);
    target.clips.getState().draw(volume.id, index, px * camera.unitsPerPx);
  };
  const end = (): void => {
    if (last.current) target.clips.getState().endDraw();
    last.current = null;
  };
  const name =
    volume.kind === 'plane' ? `Move ${volume.name}` : `Draw the ${faceNames[index] ?? ''} side of ${volume.name}`;
  return (
    <g
      className="clip-handle"
      data-flat={isSeenFlat}
      role="button"
      aria-label={name}
      onPointerDown={(event) => {
        event.stopPropagation();
        if (isSeenFlat || event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        last.current = { x: event.clientX, y: event.clientY };
      }}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={end}
    >
      {tip !== at && <path d={`M${at.x} ${at.y}L${tip.x} ${tip.y}`} />}
      <circle cx={tip.x} cy={tip.y} r={7} />
      {volume.kind === 'box' && (
        <title>{`${name}, ${lengthText(2 * volume.half[axisOf(index)], target.drawing.getState().drawing.unit)}`}</title>
      )}
    </g>
  );
}

const axisOf = (face: number): 'x' | 'y' | 'z' => (['x', 'y', 'z'] as const)[Math.floor(face / 2)]!;
