import { useEffect, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { isInRing } from '@gull-pane/core/planar/rings';
import { showArea } from '../marks/hatch';
import { placeUnder } from '../snapping/find-snaps';
import type { FoundArea } from '../store/areas-store';
import type { UnitProps } from './unit';

/** When the cursor has stood so long, the area under it is looked for, ms. */
const REST_MS = 80;

/** The area that a click would hatch. */
export function AreaPreview({ target }: UnitProps): ReactElement | null {
  const { pane, areas } = target;
  const preview = useStore(areas, (state) => state.preview);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const cursor = useStore(pane, (state) => state.cursor);
  const isMoving = useStore(pane, (state) => state.isFlying || state.scrubAt !== null);
  const shown = useStore(pane, (state) => state.shown);
  useEffect(() => {
    const place = cursor && placeUnder(target, cursor);
    if (!place || isMoving) {
      areas.getState().forgetPreview();
      return undefined;
    }
    const last = areas.getState().preview;
    if (last && isWithin(last, place)) return undefined;
    areas.getState().forgetPreview();
    const timer = setTimeout(() => showArea(target, place), REST_MS);
    return () => clearTimeout(timer);
  }, [target, areas, cursor, camera, isMoving, shown]);
  useEffect(() => () => areas.getState().forgetPreview(), [areas]);
  if (preview?.found.kind !== 'closed') return null;
  const { at, found } = preview;
  const path = found.rings.map((ring) => {
    const places: string[] = [];
    for (let i = 0; i < ring.length; i += 2) {
      const { x, y } = worldToScreen(camera, viewport, { x: at.x + ring[i]!, y: at.y + ring[i + 1]!, z: 0 });
      places.push(`${x.toFixed(1)},${y.toFixed(1)}`);
    }
    return `M${places.join('L')}Z`;
  });
  return (
    <svg className="tool-lines" width={viewport.widthPx} height={viewport.heightPx} role="img" aria-label="Area">
      <path className="tool-area" fillRule="evenodd" d={path.join('')} />
    </svg>
  );
}

function isWithin({ at, found }: FoundArea, { x, y }: Vec2): boolean {
  const [outline, ...islands] = found.rings;
  const isIn = (ring: readonly number[]): boolean => isInRing(ring, x - at.x, y - at.y);
  return outline !== undefined && isIn(outline) && !islands.some(isIn);
}
