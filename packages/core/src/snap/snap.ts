import type { Vec2, Vec3 } from '../geometry/vec.ts';

/**
 * What a point can be drawn to. The rule of rank: places (the first kinds) come before feet on lines and faces, and
 * these before the grid; among equals the felt distance decides, which is the distance on the screen times the weight of
 * the kind. Ends and corners weigh least: they are meant most often.
 */
export const snapKinds = [
  ...(['end', 'corner', 'point', 'crossing', 'centre', 'quadrant', 'perpendicular foot', 'tangent'] as const),
  ...(['middle', 'edge middle', 'face centre', 'apparent crossing'] as const),
  ...(['nearest', 'foot on face', 'grid'] as const),
] as const;
export type SnapKind = (typeof snapKinds)[number];

const rules: Readonly<Record<SnapKind, { readonly tier: number; readonly weight: number }>> = {
  end: { tier: 0, weight: 1 },
  corner: { tier: 0, weight: 1 },
  point: { tier: 0, weight: 1 },
  crossing: { tier: 0, weight: 1.25 },
  centre: { tier: 0, weight: 1.25 },
  quadrant: { tier: 0, weight: 1.4 },
  'perpendicular foot': { tier: 0, weight: 1.4 },
  tangent: { tier: 0, weight: 1.4 },
  middle: { tier: 0, weight: 1.5 },
  'edge middle': { tier: 0, weight: 1.5 },
  'face centre': { tier: 0, weight: 1.5 },
  'apparent crossing': { tier: 0, weight: 1.75 },
  nearest: { tier: 1, weight: 1 },
  'foot on face': { tier: 2, weight: 1 },
  grid: { tier: 3, weight: 1 },
};

/** Whether a kind is a place of its own, not just anywhere on a line, a face or a grid. */
export const isPlace = (kind: SnapKind): boolean => rules[kind].tier === 0;

/** A circle that something lies on. */
export interface Round {
  readonly centre: Vec3;
  readonly radius: number;
}

/** A place that a point is drawn to. */
export interface Snap {
  readonly kind: SnapKind;
  /** Drawing coordinates, made of the stored doubles. */
  readonly point: Vec3;
  /** The circle that it was found on. */
  readonly round?: Round;
  /** Unit normal of the face that it was found on, towards the viewer. */
  readonly normal?: Vec3;
  /** The ends of the straight line that it is anywhere on. */
  readonly line?: readonly [Vec3, Vec3];
}

/** A snap before it is ranked. */
export interface SnapOffer extends Snap {
  /** From the cursor, in one unit for all that are ranked together. */
  readonly distance: number;
}

/** So many are kept to be cycled through. */
const MOST_SNAPS = 12;

/**
 * The places that a point may be meant for, the likeliest first; of those at one place only the first.
 * @param offers none farther than it should be
 * @param same so near to each other places are one, drawing units
 */
export function rankSnaps(offers: readonly SnapOffer[], same: number): Snap[] {
  const felt = ({ kind, distance }: SnapOffer): number => distance * rules[kind].weight;
  const order = [...offers].sort((a, b) => rules[a.kind].tier - rules[b.kind].tier || felt(a) - felt(b));
  const kept: Snap[] = [];
  for (const { distance: _, ...snap } of order) {
    if (kept.some((one) => isSame(one.point, snap.point, same))) continue;
    kept.push(snap);
    if (kept.length === MOST_SNAPS) break;
  }
  return kept;
}

const isSame = (a: Vec3, b: Vec3, same: number): boolean =>
  Math.abs(a.x - b.x) <= same && Math.abs(a.y - b.y) <= same && Math.abs(a.z - b.z) <= same;

/** The grid's place that is nearest. @param step between its lines, drawing units */
export const gridPoint = ({ x, y }: Vec2, step: number): Vec2 => ({
  x: Math.round(x / step) * step,
  y: Math.round(y / step) * step,
});
