import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import { along3 } from '@gull-pane/core/geometry/vec';
import { normalOf } from '@gull-pane/core/plane/work-plane';
import { isWorldPlane } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';

/** Length of an axis, CSS px where it is seen straight. */
const ARM_PX = 56;

/** The axes of the work plane with their letters, where it isn't the world's. */
export function PlaneAxes({ target: { pane } }: { readonly target: Parts<'pane'> }): ReactElement | null {
  const { plane, name: planeName } = useStore(pane, ({ shown }) => shown.workPlane);
  const isWorld = useStore(pane, ({ shown }) => isWorldPlane(shown));
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  if (isWorld) return null;
  const origin = worldToScreen(camera, viewport, plane.origin);
  if (Number.isNaN(origin.x)) return null;
  const axes = [
    ['X', plane.x],
    ['Y', plane.y],
    ['Z', normalOf(plane)],
  ] as const;
  return (
    <svg
      className="plane-axes"
      width={viewport.widthPx}
      height={viewport.heightPx}
      role="img"
      aria-label={planeName === '' ? 'Work plane' : `Work plane ${planeName}`}
    >
      {axes.map(([letter, axis]) => {
        const tip = worldToScreen(camera, viewport, along3(plane.origin, axis, ARM_PX * camera.unitsPerPx));
        return (
          <g key={letter} data-axis={letter}>
            <line x1={origin.x} y1={origin.y} x2={tip.x} y2={tip.y} />
            <text x={tip.x + 4} y={tip.y - 4}>
              {letter}
            </text>
          </g>
        );
      })}
      <circle cx={origin.x} cy={origin.y} r={3} />
      {planeName !== '' && (
        <text x={origin.x + 8} y={origin.y + 16}>
          {planeName}
        </text>
      )}
    </svg>
  );
}
