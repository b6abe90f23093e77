import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { RUN } from '@gull-pane/core/solid/solid-tile';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { SolidTileContent } from '../../tiles/solid-tile-content';

/** A frame of objects goes by the points themselves up to so many of them in a tile, else by their box. */
const MOST_EXACT_POINTS = 20_000;

/** An exact tile as far as its corners are concerned. */
interface ExactBody {
  readonly content: SolidTileContent;
  readonly origin: Vec3;
}

/**
 * Corners of objects, x, y, z triples in drawing units: those of the exact shape where all of it is loaded, else those of the
 * object's box.
 * @param bodies of all exact tiles that are loaded
 */
export function cornersOf(bodies: Iterable<ExactBody>, table: SolidTable, objects: ReadonlySet<number>): number[] {
  const all = [...bodies];
  const corners: number[] = [];
  const loaded = loadedOf(all, table, objects);
  for (const object of objects)
    if (!loaded.has(object)) corners.push(...boxCorners(table.boxes.slice(6 * object, 6 * object + 6)));
  for (const { content, origin } of all) {
    const { runs, positions, edgePositions, pointPositions } = content;
    let [vertex, end, point] = [0, 0, 0];
    for (let run = 0; run < runs.length; run += RUN) {
      const [vertices, ends, points] = [runs[run + 2]!, runs[run + 4]!, runs[run + 5]!];
      if (loaded.has(runs[run]!)) {
        const own = pointPositions.subarray(3 * point, 3 * points);
        const outer = points - point > MOST_EXACT_POINTS ? boxCorners(own) : own;
        for (const [from, first, last] of [
          [positions, vertex, vertices],
          [edgePositions, end, ends],
          [outer, 0, outer.length / 3],
        ] as const)
          for (let i = 3 * first; i < 3 * last; i += 3)
            corners.push(origin.x + from[i]!, origin.y + from[i + 1]!, origin.z + from[i + 2]!);
      }
      [vertex, end, point] = [vertices, ends, points];
    }
  }
  return corners;
}

/** Of some objects those whose exact shapes are all loaded: as many triangles and points as the table tells. */
export function loadedOf(
  bodies: Iterable<ExactBody>,
  { triangles, points }: SolidTable,
  objects: ReadonlySet<number>,
): ReadonlySet<number> {
  const amounts = new Map<number, number>();
  for (const { content } of bodies) {
    const { runs } = content;
    let [corner, point] = [0, 0];
    for (let run = 0; run < runs.length; run += RUN) {
      const [object, corners, pointsEnd] = [runs[run]!, runs[run + 3]!, runs[run + 5]!];
      if (objects.has(object))
        amounts.set(object, (amounts.get(object) ?? 0) + (corners - corner) / 3 + (pointsEnd - point));
      [corner, point] = [corners, pointsEnd];
    }
  }
  return new Set([...amounts.keys()].filter((at) => amounts.get(at)! >= triangles[at]! + (points?.[at] ?? 0)));
}

/** The eight corners of the box of some points, x, y, z each. */
function boxCorners(points: ArrayLike<number>): Float64Array {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i++) {
    low[i % 3] = Math.min(low[i % 3]!, points[i]!);
    high[i % 3] = Math.max(high[i % 3]!, points[i]!);
  }
  return Float64Array.from({ length: 24 }, (_, i) => ((Math.floor(i / 3) >> (i % 3)) & 1 ? high : low)[i % 3]!);
}
