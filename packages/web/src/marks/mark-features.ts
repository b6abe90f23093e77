import type { Path } from '@gull-pane/core/drawing/path';
import type { Mark } from '@gull-pane/core/marks/mark';
import { levelPath, placesOf, strokesOf } from '@gull-pane/core/marks/strokes';
import type { SolidFeatures } from '@gull-pane/core/solid/features';

const paths = new WeakMap<Mark, Path[]>();
const features = new WeakMap<Mark, SolidFeatures>();
/** Curves of marks are so near to their chords when they are snapped to in a model, as a share of their size. */
const CHORDS_PER_SIZE = 1 / 2000;

/** The lines and curves of a mark that lie level, drawing coordinates. */
export function levelPathsOf(mark: Mark): Path[] {
  let known = paths.get(mark);
  if (!known) {
    known = strokesOf(mark).flatMap((stroke) => levelPath(stroke) ?? []);
    paths.set(mark, known);
  }
  return known;
}

const places = new WeakMap<Mark, readonly number[]>();

/** Places that a mark doesn't reach beyond, x, y, z triples, for fits. */
export function reachOf(mark: Mark): readonly number[] {
  let known = places.get(mark);
  if (!known) {
    const { corners, edges } = featuresOfMark(mark);
    known = [...corners, ...edges];
    places.set(mark, known);
  }
  return known;
}

/** A mark as snapping looks at it in a model: its places as corners, its lines as edges. */
export function featuresOfMark(mark: Mark): SolidFeatures {
  const known = features.get(mark);
  if (known) return known;
  const [first] = mark.points;
  const size = mark.points.reduce(
    (most, { x, y, z }) => Math.max(most, Math.hypot(x - first!.x, y - first!.y, z - first!.z)),
    0,
  );
  const corners = mark.points.flatMap(({ x, y, z }) => [x, y, z]);
  const edges: number[] = [];
  for (const stroke of strokesOf(mark))
    for (const run of placesOf(stroke, Math.max(size * CHORDS_PER_SIZE, 1e-9)))
      for (let i = 0; i + 1 < run.length; i++) {
        const [a, b] = [run[i]!, run[i + 1]!];
        edges.push(a.x, a.y, a.z, b.x, b.y, b.z);
      }
  const found = { corners, edges, faces: [] };
  features.set(mark, found);
  return found;
}
