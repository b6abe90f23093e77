import { AreaWalker, TimeIsUp, isOnRing, type FloodSettings, type Gap } from './area-walker.ts';
import { SegmentGrid } from './segment-grid.ts';

/**
 * The area around a place. Coordinates about that place.
 * Closed: its outline first, anticlockwise, then islands. Open: the gaps that would have to be closed, the widest first, with
 * the area that would be closed then; no gaps if nothing is found that goes around the place.
 */
export type Flooded =
  | { readonly kind: 'closed'; readonly rings: readonly (readonly number[])[] }
  | { readonly kind: 'open'; readonly gaps: readonly Gap[]; readonly rings: readonly (readonly number[])[] }
  /** The time was up before anything was found. */
  | { readonly kind: 'unfinished'; readonly rings: readonly [] };

/**
 * Finds the face of the arrangement of lines that holds the origin. Only the lines around that face are looked at: from the
 * first line that a ray meets along its edge, at every node taking the next line clockwise, as in the traversal of a
 * planar subdivision (M. de Berg et al., "Computational Geometry", 2008, 2.2), whose nodes are found on the way.
 * @param segments x0, y0, x1, y1 each, about the place; curves as chords
 */
export function flood(segments: Float64Array, settings: FloodSettings): Flooded {
  try {
    const closed = faceOf(segments, settings);
    if (closed) return { kind: 'closed', rings: closed };
    return { kind: 'open', ...closing(segments, settings) };
  } catch (error) {
    if (error instanceof TimeIsUp) return { kind: 'unfinished', rings: [] };
    throw error;
  }
}

/** How much finer the tolerance becomes where a walk fails, and how often. */
const FINER = 1 / 8;
const TRIES = 4;

/** The face around the origin; null if nothing closed lies around it. */
function faceOf(segments: Float64Array, settings: FloodSettings): number[][] | null {
  const grid = new SegmentGrid(segments);
  for (let k = 0; k < TRIES; k++) {
    const walker = new AreaWalker(segments, { ...settings, tolerance: settings.tolerance * FINER ** k }, grid);
    const face = walker.face();
    if (face || !walker.isStuck) return face;
  }
  return null;
}

/** The narrowest gaps whose closing closes the area. */
function closing(
  segments: Float64Array,
  settings: FloodSettings,
): { readonly gaps: readonly Gap[]; readonly rings: readonly (readonly number[])[] } {
  const { tolerance, widestGap } = settings;
  const gaps = new AreaWalker(segments, settings).gaps(widestGap);
  const bridged = (count: number): Float64Array => {
    const all = new Float64Array(segments.length + 4 * count);
    all.set(segments);
    for (let i = 0; i < count; i++) all.set([...gaps[i]!.from, ...gaps[i]!.to], segments.length + 4 * i);
    return all;
  };
  const faceWith = (count: number) => faceOf(bridged(count), settings);
  let [low, high] = [1, gaps.length];
  if (high === 0 || !faceWith(high)) return { gaps: [], rings: [] };
  while (low < high) {
    const middle = (low + high) >> 1;
    if (faceWith(middle)) high = middle;
    else low = middle + 1;
  }
  const rings = faceWith(low)!;
  const outline = rings[0]!;
  const isOnOutline = ({ from, to }: Gap): boolean =>
    isOnRing(outline, from, tolerance) && isOnRing(outline, to, tolerance);
  const own = gaps.slice(0, low).filter(isOnOutline);
  return { gaps: own.sort((a, b) => b.size - a.size), rings };
}
