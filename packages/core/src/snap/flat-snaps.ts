import { addDd, divideDd, dotDd, multiplyDd, twoSum } from '../geometry/double-double.ts';
import type { Path } from '../drawing/path.ts';
import type { Vec2, Vec3 } from '../geometry/vec.ts';
import { crossingsNear } from './crossings.ts';
import { curvesOf, isClosedArc, middleOf, radiusOf, rootsAlong, spansNear, type Curve } from './curve.ts';
import type { SnapKind, SnapOffer } from './snap.ts';

/** Crossings are looked for among no more curves than this: where more lie that close, a closer view is wanted. */
const MOST_CROSSING = 150;
/** A centre is meant, too, where its circle is pointed at; then it must be so much nearer than other places. */
const BY_RIM = 2;

export interface SnapQuestion {
  /** Drawing coordinates. */
  readonly at: Vec2;
  /** Drawing units. */
  readonly radius: number;
  /** The point before, for feet and tangents. */
  readonly from: Vec2 | null;
  readonly kinds: ReadonlySet<SnapKind>;
}

/**
 * All places of lines and curves that a point near a place may be drawn to.
 * @param paths drawing coordinates, the stored doubles
 */
export function flatSnaps(paths: Iterable<Path>, { at, radius, from, kinds }: SnapQuestion): SnapOffer[] {
  const offers: SnapOffer[] = [];
  const offer = (
    kind: SnapKind,
    { x, y }: Vec2,
    more: Pick<SnapOffer, 'round' | 'line'> & { distance?: number } = {},
  ): void => {
    const distance = Math.min(Math.hypot(x - at.x, y - at.y), more.distance ?? Infinity);
    if (distance <= radius) offers.push({ ...more, kind, point: { x, y, z: 0 }, distance });
  };
  const world = ({ x, y }: Vec2): Vec2 => ({ x: x + at.x, y: y + at.y });
  const before = from && { x: from.x - at.x, y: from.y - at.y };
  const near: Curve[] = [];
  for (const path of paths)
    for (const curve of curvesOf(path, at, radius)) {
      const isNear = spansNear(curve, radius).length > 0;
      const radiusOfArc = curve.arc ? radiusOf(curve.arc) : null;
      const { arc } = curve;
      const round = arc && radiusOfArc !== null ? { centre: centreOf(arc), radius: radiusOfArc } : undefined;
      const on = round ? { round } : {};
      if (arc && kinds.has('centre')) {
        const rim = isNear ? { distance: BY_RIM * Math.hypot(...pair(nearestOn(curve, ORIGIN))) } : {};
        offer('centre', centreOf(arc), { ...on, ...rim });
      }
      if (!isNear) continue;
      near.push(curve);
      const isRing = arc !== undefined && isClosedArc(arc);
      if (kinds.has('end') && !isRing) {
        offer('end', curve.start, on);
        offer('end', curve.end, on);
      }
      if (kinds.has('middle') && !isRing) offer('middle', middlePlace(curve, world), on);
      if (arc && kinds.has('quadrant')) for (const place of quadrants(curve)) offer('quadrant', place, on);
      if (before && kinds.has('perpendicular foot'))
        for (const foot of feetOn(curve, before)) offer('perpendicular foot', world(foot), on);
      if (before && kinds.has('tangent') && !curve.isLine)
        for (const touch of tangentsOn(curve, before)) offer('tangent', world(touch), on);
      if (kinds.has('nearest')) offer('nearest', world(nearestOn(curve, ORIGIN)), { ...on, ...lineOf(curve) });
    }
  if (kinds.has('crossing')) {
    const few = near.slice(0, MOST_CROSSING);
    few.forEach((a, index) => {
      for (const b of few.slice(index + 1))
        for (const place of crossingsNear(a, b, radius)) offer('crossing', world(place));
    });
  }
  return offers;
}

const ORIGIN: Vec2 = { x: 0, y: 0 };
const pair = ({ x, y }: Vec2): [number, number] => [x, y];
const centreOf = ({ cx, cy }: { readonly cx: number; readonly cy: number }): Vec3 => ({ x: cx, y: cy, z: 0 });

/** The ends of what is straight, the very doubles of the file. */
const lineOf = ({ isLine, start, end }: Curve): Pick<SnapOffer, 'line'> =>
  isLine
    ? {
        line: [
          { ...start, z: 0 },
          { ...end, z: 0 },
        ],
      }
    : {};

/** Of a line by its ends' own doubles. */
function middlePlace(curve: Curve, world: (local: Vec2) => Vec2): Vec2 {
  const { start, end, isLine } = curve;
  return isLine ? { x: (start.x + end.x) / 2, y: (start.y + end.y) / 2 } : world(middleOf(curve));
}

/** Where an arc turns back east, north, west or south. Drawing coordinates. */
function quadrants({ arc }: Curve): Vec2[] {
  const { cx, cy, ux, uy, vx, vy, startRad, sweepRad } = arc!;
  const isOn = (angle: number): boolean => {
    const turn = 2 * Math.PI;
    const [low, high] = [Math.min(startRad, startRad + sweepRad), Math.max(startRad, startRad + sweepRad)];
    const first = angle + Math.ceil((low - 1e-12 - angle) / turn) * turn;
    return first <= high + 1e-12;
  };
  const radius = radiusOf(arc!);
  const places: Vec2[] = [];
  for (const [along, across, axis] of [
    [ux, vx, 'x'],
    [uy, vy, 'y'],
  ] as const)
    for (const side of [1, -1]) {
      const angle = Math.atan2(side * across, side * along);
      if (!isOn(angle)) continue;
      if (radius !== null)
        places.push(axis === 'x' ? { x: cx + side * radius, y: cy } : { x: cx, y: cy + side * radius });
      else {
        const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
        places.push({ x: cx + (ux * cos + vx * sin), y: cy + (uy * cos + vy * sin) });
      }
    }
  return places;
}

/** Feet of the perpendiculars from a place, local. */
function feetOn(curve: Curve, p: Vec2): Vec2[] {
  if (curve.isLine) {
    const foot = footOnLine(curve.from, curve.to, p);
    return foot.share >= 0 && foot.share <= 1 ? [foot.point] : [];
  }
  const { at, derivative, parts } = curve;
  return rootsAlong(4 * parts, (t) => {
    const [c, d] = [at(t), derivative(t)];
    return (c.x - p.x) * d.x + (c.y - p.y) * d.y;
  }).map(at);
}

/** The foot on the line through two places, in twice the digits of doubles. */
export function footOnLine(a: Vec2, b: Vec2, p: Vec2): { readonly point: Vec2; readonly share: number } {
  const [ux, uy] = [twoSum(b.x, -a.x), twoSum(b.y, -a.y)];
  const [px, py] = [twoSum(p.x, -a.x), twoSum(p.y, -a.y)];
  const share = divideDd(dotDd(px, py, ux, uy), dotDd(ux, uy, ux, uy));
  const x = addDd({ hi: a.x, lo: 0 }, multiplyDd(share, ux));
  const y = addDd({ hi: a.y, lo: 0 }, multiplyDd(share, uy));
  return { point: { x: x.hi + x.lo, y: y.hi + y.lo }, share: share.hi };
}

/** Where tangents from a place touch a curve, local. */
function tangentsOn({ at, derivative, parts }: Curve, p: Vec2): Vec2[] {
  return rootsAlong(4 * parts, (t) => {
    const [c, d] = [at(t), derivative(t)];
    return (c.x - p.x) * d.y - (c.y - p.y) * d.x;
  }).map(at);
}

/** The place of a curve that is nearest to a place, local. */
export function nearestOn(curve: Curve, p: Vec2): Vec2 {
  if (curve.isLine) {
    const { point, share } = footOnLine(curve.from, curve.to, p);
    return share <= 0 ? curve.from : share >= 1 ? curve.to : point;
  }
  let best = curve.from;
  for (const place of [curve.to, ...feetOn(curve, p)])
    if (Math.hypot(place.x - p.x, place.y - p.y) < Math.hypot(best.x - p.x, best.y - p.y)) best = place;
  return best;
}
