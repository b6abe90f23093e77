import { worldToScreen } from '@gull-pane/core/camera/camera';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import type { Mark } from '@gull-pane/core/marks/mark';
import { placesOf, strokesOf } from '@gull-pane/core/marks/strokes';
import { isMarkShown } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';

/** How near its lines a mark is pointed at, CSS px. */
const REACH_PX = 6;

/** The mark that lies at a place of a pane, the last drawn first; null if none does. */
export function markUnder({ pane, marks }: Parts<'pane' | 'marks'>, at: Vec2): Mark | null {
  const { camera, viewport, shown } = pane.getState();
  const seen = (place: Vec3): Vec2 => worldToScreen(camera, viewport, place);
  const isAt = (mark: Mark): boolean => {
    const lone = mark.kind === 'note' ? mark.points.slice(1) : mark.kind === 'point' ? mark.points : [];
    if (lone.some((place) => away(seen(place), seen(place), at) <= 2 * REACH_PX)) return true;
    return strokesOf(mark).some((stroke) =>
      placesOf(stroke, 0.5 * camera.unitsPerPx).some((run) =>
        run.some((place, k) => k > 0 && away(seen(run[k - 1]!), seen(place), at) <= REACH_PX),
      ),
    );
  };
  return marks.getState().marks.findLast((mark) => isMarkShown(shown, mark) && isAt(mark)) ?? null;
}

/** From a place to a line. */
function away(a: Vec2, b: Vec2, p: Vec2): number {
  const [ux, uy] = [b.x - a.x, b.y - a.y];
  const square = ux * ux + uy * uy;
  const share = square > 0 ? Math.min(Math.max(((p.x - a.x) * ux + (p.y - a.y) * uy) / square, 0), 1) : 0;
  return Math.hypot(a.x + share * ux - p.x, a.y + share * uy - p.y);
}
