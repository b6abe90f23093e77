import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import type { Parts } from '../actions/action';
import type { FindHit } from '../store/find-store';

/** Hits farther outside the pane than this aren't drawn, CSS px. */
const MARGIN_PX = 50;
/** Hits smaller than this get a mark that can be seen, CSS px. */
const LEAST_PX = 6;
const MOST_MARKS = 400;

/** Frames round the texts that were found; the one that was gone to pulses. */
export function HitMarks({
  target: { finds, pane },
}: {
  readonly target: Parts<'pane' | 'finds'>;
}): ReactElement | null {
  const hits = useStore(finds, (state) => state.hits);
  const current = useStore(finds, (state) => state.current);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  if (hits.length === 0) return null;
  const cornersOf = ({ x, y, size, width, angleRad }: FindHit): { x: number; y: number }[] => {
    const [cos, sin] = [Math.cos(angleRad), Math.sin(angleRad)];
    const grow = Math.max(0.25 * size, LEAST_PX * camera.unitsPerPx);
    const [low, high] = [-0.22 * size - grow, 0.75 * size + grow];
    const corner = (along: number, up: number): { x: number; y: number } =>
      worldToScreen(camera, viewport, {
        x: x + along * cos - up * sin,
        y: y + along * sin + up * cos,
        z: camera.target.z,
      });
    return [corner(-grow, low), corner(width + grow, low), corner(width + grow, high), corner(-grow, high)];
  };
  const isNear = (corners: { x: number; y: number }[]): boolean =>
    corners.some(
      ({ x, y }) =>
        x > -MARGIN_PX && x < viewport.widthPx + MARGIN_PX && y > -MARGIN_PX && y < viewport.heightPx + MARGIN_PX,
    );
  const shown = hits
    .map((hit, index) => ({ index, corners: cornersOf(hit) }))
    .filter(({ corners }) => isNear(corners))
    .slice(0, MOST_MARKS);
  return (
    <svg className="hit-marks" width={viewport.widthPx} height={viewport.heightPx} aria-hidden>
      {shown.map(({ index, corners }) => (
        <polygon
          key={index === current ? `current ${index}` : index}
          className={index === current ? 'hit-current' : undefined}
          points={corners.map(({ x, y }) => `${x},${y}`).join(' ')}
        />
      ))}
    </svg>
  );
}
