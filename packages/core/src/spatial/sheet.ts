import type { Sheet } from '../drawing/model.ts';
import type { Box2 } from '../geometry/clip.ts';
import type { Vec2 } from '../geometry/vec.ts';

/** What is known of a layer. */
interface NamedLayer {
  readonly name: string;
  /** x, y, z triples: the corners of its convex hull, in order. */
  readonly support: readonly number[];
}

const SHEET_NAME = /\b(sheet|border)\b/i;
/** A hull is a rectangle if it fills so much of one. */
const FILLED = 0.9995;

/**
 * The sheet that a drawing stands on: the layer that is named after it and whose hull is a rectangle, turned or not.
 * @returns x, y, z triples of its corners; null if the drawing has none
 */
export function sheetOf(layers: readonly NamedLayer[]): readonly number[] | null {
  for (const { name, support } of layers) {
    if (!SHEET_NAME.test(name)) continue;
    const corners = rectangleAround(support);
    if (corners) return corners;
  }
  return null;
}

/** So much of a view or of the sheet must be the other's for the view to be one of the sheet. */
const MOSTLY = 0.5;
/** A sheet that takes less of the view than this is one among others. */
const AMONG_OTHERS = 0.2;

/**
 * The sheet of a set that a view shows.
 * @param seen the box around what is seen, drawing units
 * @returns its index; −1 where the view shows several sheets or none
 */
export function sheetInView(sheets: readonly Sheet[], seen: Box2): number {
  const areaOf = ({ minX, minY, maxX, maxY }: Box2): number => Math.max(maxX - minX, 0) * Math.max(maxY - minY, 0);
  const shares = sheets.map((sheet) => {
    const both = areaOf({
      minX: Math.max(sheet.minX, seen.minX),
      minY: Math.max(sheet.minY, seen.minY),
      maxX: Math.min(sheet.maxX, seen.maxX),
      maxY: Math.min(sheet.maxY, seen.maxY),
    });
    const isMostly = both >= MOSTLY * Math.min(areaOf(sheet), areaOf(seen));
    return isMostly && both >= AMONG_OTHERS * areaOf(seen) ? both : 0;
  });
  const most = Math.max(...shares, 0);
  return most > 0 ? shares.indexOf(most) : -1;
}

/** The corners of a sheet, x, y, z triples. */
export const cornersOfSheet = ({ minX, minY, maxX, maxY }: Sheet): readonly number[] => [
  minX,
  minY,
  0,
  maxX,
  minY,
  0,
  maxX,
  maxY,
  0,
  minX,
  maxY,
  0,
];

function rectangleAround(support: readonly number[]): number[] | null {
  const hull: Vec2[] = [];
  for (let i = 0; i + 2 < support.length; i += 3) hull.push({ x: support[i]!, y: support[i + 1]! });
  if (hull.length < 4) return null;
  const edges = hull.map((from, index) => {
    const to = hull[(index + 1) % hull.length]!;
    return { dx: to.x - from.x, dy: to.y - from.y, length: Math.hypot(to.x - from.x, to.y - from.y) };
  });
  const longest = edges.reduce((a, b) => (b.length > a.length ? b : a));
  if (longest.length === 0) return null;
  const [ux, uy] = [longest.dx / longest.length, longest.dy / longest.length];
  const [base] = hull as [Vec2];
  const along = hull.map(({ x, y }) => (x - base.x) * ux + (y - base.y) * uy);
  const across = hull.map(({ x, y }) => (y - base.y) * ux - (x - base.x) * uy);
  const [a0, a1, b0, b1] = [Math.min(...along), Math.max(...along), Math.min(...across), Math.max(...across)];
  const area = Math.abs(
    hull.reduce((sum, from, index) => {
      const to = hull[(index + 1) % hull.length]!;
      return sum + (from.x - base.x) * (to.y - base.y) - (to.x - base.x) * (from.y - base.y);
    }, 0) / 2,
  );
  if (area < FILLED * (a1 - a0) * (b1 - b0) || area === 0) return null;
  const corner = (a: number, b: number): number[] => [base.x + a * ux - b * uy, base.y + a * uy + b * ux, support[2]!];
  return [...corner(a0, b0), ...corner(a1, b0), ...corner(a1, b1), ...corner(a0, b1)];
}
