import type { Camera } from '../camera/camera.ts';
import type { Box3 } from '../geometry/box.ts';
import type { DrillScene } from './drill.ts';

/** The view in which a box fills half the pane. */
export function atPlace({ whole, viewport }: Pick<DrillScene, 'whole' | 'viewport'>, { min, max }: Box3): Camera {
  const side = Math.max(max.x - min.x, max.y - min.y);
  return {
    ...whole,
    target: { x: (min.x + max.x) / 2, y: (min.y + max.y) / 2, z: (min.z + max.z) / 2 },
    unitsPerPx: (2 * side) / Math.min(viewport.widthPx, viewport.heightPx),
  };
}
