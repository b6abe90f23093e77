import { flattenPath, within } from '@gull-pane/core/drawing/flatten';
import { Growable } from '@gull-pane/core/geometry/growable';
import { boxAround } from '@gull-pane/core/pick/region';
import type { Picker } from '@gull-pane/core/pick/picker';
import { flood, type Flooded } from '@gull-pane/core/planar/flood';
import { shifted } from '@gull-pane/core/pyramid/detail';
import type { PickQuestions } from './pick-questions';

/** Objects whose lines may go around an area. */
const MOST_AROUND = 120_000;
/** Curves around an area are chords so near to them, px. */
const CHORD_PX = 0.02;
/** A gap that is wider than this share of the view is ignored. */
const WIDEST_GAP = 0.1;

/** The closed area around a place, of the lines that are shown and of others; coordinates about the place. */
export async function floodAround(
  own: Picker,
  { at, region, unitsPerPx, tolerance, others, withinMs, isBeyond }: PickQuestions['flood']['ask'],
  isShown: (entry: number) => boolean,
): Promise<Flooded> {
  const size = Math.hypot(region.halfWidth, region.halfHeight);
  const endMs = performance.now() + withinMs;
  const isOver = (): boolean => performance.now() > endMs;
  let best: Flooded = { kind: 'open', gaps: [], rings: [] };
  // the area may reach beyond what is seen
  for (const wider of isBeyond ? [0, 2 * size, 8 * size] : [0]) {
    const paths = await own.pathsIn(boxAround(region, wider), isShown, MOST_AROUND);
    if (!paths) break;
    const segments = new Growable(Float64Array);
    for (const path of [...paths, ...others]) {
      let [x0, y0] = [0, 0];
      const move = (x: number, y: number): void => {
        [x0, y0] = [x, y];
      };
      const line = (x: number, y: number): void => {
        segments.append([x0, y0, x, y]);
        [x0, y0] = [x, y];
      };
      flattenPath(shifted(path, at), { move, line, close: () => undefined }, within(CHORD_PX * unitsPerPx));
    }
    const found = flood(segments.view(), { tolerance, widestGap: WIDEST_GAP * size, isOver });
    if (found.kind === 'closed') return found;
    if (found.kind === 'unfinished') return best.rings.length > 0 ? best : found;
    if (best.rings.length === 0) best = found;
  }
  return best;
}
