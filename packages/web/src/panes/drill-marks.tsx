import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Parts } from '../actions/action';
import { useWarmUp } from '../store/warm-up-store';
import './drill-marks.css';

/** The squares that a drill is about, while it is on; those that were reached are gone. */
export function DrillMarks({ target }: { readonly target: Parts<'pane' | 'drawing'> }): ReactElement | null {
  const running = useWarmUp((state) => state.running);
  const { camera, viewport } = useStore(target.pane);
  const drawing = useStore(target.drawing, (state) => state.drawing.id);
  if (running?.drawing !== drawing) return null;
  const { steps, areAllMarked = false, way } = running.begun;
  const points = (places: readonly Vec3[]): string =>
    places
      .map((place) => worldToScreen(camera, viewport, place))
      .map(({ x, y }) => `${x},${y}`)
      .join(' ');
  return (
    <svg className="drill-marks" aria-hidden>
      {way && <polyline points={points(way)} />}
      {running.begun.marked.map(({ min, max }, k) => {
        if (k < running.reached) return null;
        const z = (min.z + max.z) / 2;
        const corners = [
          { x: min.x, y: min.y, z },
          { x: max.x, y: min.y, z },
          { x: max.x, y: max.y, z },
          { x: min.x, y: max.y, z },
        ].map((corner) => worldToScreen(camera, viewport, corner));
        const [lowest] = [...corners].sort((a, b) => b.y - a.y);
        return (
          <g key={k}>
            <polygon points={corners.map(({ x, y }) => `${x},${y}`).join(' ')} />
            {(steps > 1 || areAllMarked) && (
              <text x={lowest!.x} y={lowest!.y + 16}>
                {k + 1}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
