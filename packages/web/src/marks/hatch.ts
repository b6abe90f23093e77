import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { regionOfPane } from '@gull-pane/core/pick/region';
import { isMarkShown } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';
import type { AreaQuestion } from '../store/areas-store';
import { useNotes } from '../store/notes-store';
import { levelPathsOf } from './mark-features';

/** Ends that are drawn to meet, but for rounding, px. */
const USUAL_TOLERANCE_PX = 0.01;
/** Time to look for an area that was clicked, and for one under the cursor, ms. */
const SEARCH_MS = 5000;
const PREVIEW_MS = 250;

/** Shows the area that a click would hatch. @param place drawing coordinates */
export const showArea = (target: Parts<'pane' | 'drawing' | 'areas' | 'marks'>, place: Vec2): void =>
  target.areas.getState().show({ ...questionAbout(target, place), withinMs: PREVIEW_MS, isBeyond: false });

/** Hatches the area around a place, or shows where it is open. */
export async function hatch(target: Parts<'pane' | 'drawing' | 'areas' | 'marks'>, { x, y }: Vec2): Promise<void> {
  const { pane, areas, marks } = target;
  const { plane } = pane.getState().shown.workPlane;
  marks.getState().setOpen(null);
  try {
    const question = { ...questionAbout(target, { x, y }), withinMs: SEARCH_MS, isBeyond: true };
    const found = await areas.getState().find(question);
    if (!found) return;
    if (found.kind === 'unfinished') {
      tell(`No area was found there within ${SEARCH_MS / 1000} seconds. Zoom in on it, or hide layers, and try again.`);
      return;
    }
    const shape =
      found.rings.length > 0
        ? { kind: 'hatch' as const, points: [{ x, y, z: 0 }], x: plane.x, y: plane.y, text: '', rings: found.rings }
        : null;
    if (found.kind === 'closed' && shape) {
      marks.getState().add(shape, 'hatch');
      return;
    }
    const gaps = found.kind === 'open' ? found.gaps : [];
    const moved = gaps.map(({ from, to, size }) => ({
      from: [from[0] + x, from[1] + y] as const,
      to: [to[0] + x, to[1] + y] as const,
      size,
    }));
    marks.getState().setOpen({ gaps: moved, shape });
  } catch {
    tell('The area can’t be looked for just now. Try again.');
  }
}

const tell = (what: string): void => useNotes.getState().tell('failed', what);

function questionAbout(
  { pane, marks, drawing }: Parts<'pane' | 'drawing' | 'marks'>,
  { x, y }: Vec2,
): Omit<AreaQuestion, 'withinMs' | 'isBeyond'> {
  const { camera, viewport, shown } = pane.getState();
  const own = drawing.getState().drawing;
  const others = marks
    .getState()
    .marks.filter((mark) => isMarkShown(shown, mark) && mark.kind !== 'hatch' && mark.kind !== 'measure');
  return {
    at: { x, y },
    region: regionOfPane(camera, viewport),
    unitsPerPx: camera.unitsPerPx,
    tolerance: own.begun?.tolerance || USUAL_TOLERANCE_PX * camera.unitsPerPx,
    others: others.flatMap(levelPathsOf),
  };
}
