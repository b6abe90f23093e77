import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { usualStyle } from '@gull-pane/core/marks/mark';
import { placesOf, strokesOf } from '@gull-pane/core/marks/strokes';
import type { Placed } from '@gull-pane/core/measure/placed';
import { collectableOf } from '@gull-pane/core/tools/collectables';
import type { Parts } from '../actions/action';

/** Lines that show what the points of a tool would make. @param points with the cursor's as the last */
export function previewOf(
  { pane }: Parts<'pane'>,
  collecting: string,
  points: readonly Placed[],
): readonly (readonly Vec3[])[] {
  const shape = collectableOf(collecting).way?.make(points, pane.getState().shown.workPlane.plane);
  if (!shape) return points.length > 1 ? [points] : [];
  const chordError = 0.3 * pane.getState().camera.unitsPerPx;
  return strokesOf({ ...usualStyle, ...shape, id: '' }).flatMap((stroke) => placesOf(stroke, chordError));
}
