import { facesOf, type ClipVolume } from '../clip/clip-volume.ts';
import { dot3, type Vec3 } from '../geometry/vec.ts';

/** A half-space: heights over it are x·nx + y·ny + z·nz − d, and what lies at 0 or below is inside. */
export interface HalfSpace {
  readonly normal: Vec3;
  readonly d: number;
}

/** A convex body of half-spaces, and which side of its surface is kept. */
export interface Cutter {
  readonly halves: readonly HalfSpace[];
  readonly keeps: 'inside' | 'outside';
}

/** What a volume cuts. */
export const cutterOf = (volume: ClipVolume): Cutter => ({
  keeps: volume.keeps,
  halves: facesOf(volume).map(({ middle, normal }) => ({ normal, d: dot3(middle, normal) })),
});

/**
 * A convex polygon without what cutters cut away, as convex pieces.
 * @param polygon its corners, `stride` numbers each: x, y, z first, then what varies evenly over it
 */
export function keptPolygons(
  polygon: readonly number[],
  stride: number,
  cutters: readonly Cutter[],
): readonly number[][] {
  let pieces: number[][] = [[...polygon]];
  for (const { halves, keeps } of cutters) {
    const kept: number[][] = [];
    for (const piece of pieces) {
      let rest = piece;
      for (const half of halves) {
        if (rest.length === 0) break;
        if (keeps === 'outside') {
          const outside = cutPolygon(rest, stride, half, -1);
          if (outside.length > 0) kept.push(outside);
        }
        rest = cutPolygon(rest, stride, half, 1);
      }
      if (keeps === 'inside' && rest.length > 0) kept.push(rest);
    }
    pieces = kept;
    if (pieces.length === 0) break;
  }
  return pieces;
}

/** One side of a plane (I. Sutherland, G. Hodgman, "Reentrant polygon clipping", 1974). @param side 1 keeps the inside */
function cutPolygon(polygon: readonly number[], stride: number, half: HalfSpace, side: 1 | -1): number[] {
  const kept: number[] = [];
  const count = polygon.length / stride;
  for (let i = 0; i < count; i++) {
    const [a, b] = [stride * i, stride * ((i + 1) % count)];
    const [ha, hb] = [side * heightOver(half, polygon, a), side * heightOver(half, polygon, b)];
    if (ha <= 0) for (let k = 0; k < stride; k++) kept.push(polygon[a + k]!);
    if (ha <= 0 === hb <= 0) continue;
    const share = ha / (ha - hb);
    for (let k = 0; k < stride; k++) kept.push(polygon[a + k]! + (polygon[b + k]! - polygon[a + k]!) * share);
  }
  return kept.length >= 3 * stride ? kept : [];
}

const heightOver = ({ normal, d }: HalfSpace, numbers: ArrayLike<number>, at: number): number =>
  numbers[at]! * normal.x + numbers[at + 1]! * normal.y + numbers[at + 2]! * normal.z - d;

/**
 * The stretches of a line that cutters leave.
 * @param line x, y, z of its ends
 * @returns shares of its length: from, to of each stretch
 */
export function keptStretches(
  line: readonly number[],
  cutters: readonly Cutter[],
): readonly (readonly [number, number])[] {
  let stretches: (readonly [number, number])[] = [[0, 1]];
  for (const { halves, keeps } of cutters) {
    // the part inside of a convex body is one stretch
    let [from, to] = [0, 1];
    for (const half of halves) {
      const [a, b] = [heightOver(half, line, 0), heightOver(half, line, 3)];
      if (a > 0 && b > 0) [from, to] = [1, 0];
      else if (a > 0) from = Math.max(from, a / (a - b));
      else if (b > 0) to = Math.min(to, a / (a - b));
    }
    stretches = stretches.flatMap(([begin, end]) => {
      const inside = [Math.max(begin, from), Math.min(end, to)] as const;
      if (keeps === 'inside') return inside[0] < inside[1] ? [inside] : [];
      if (inside[0] >= inside[1]) return [[begin, end] as const];
      return [[begin, inside[0]] as const, [inside[1], end] as const].filter(([a, b]) => a < b);
    });
  }
  return stretches;
}
