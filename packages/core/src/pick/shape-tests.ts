/** Exact questions to a shape. Boxes have their middle at the origin: the shape is brought there first. */
import { visitExtremes } from '../drawing/extents.ts';
import { flattenPath, within } from '../drawing/flatten.ts';
import { visitPath, type ArcShape, type Path } from '../drawing/path.ts';
import { clipSegment, type Box2 } from '../geometry/clip.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { Painted } from './object-index.ts';
import type { ObjectShape } from './object-chunk.ts';

/** Whether the whole of a shape lies in a box, its edge counted in. */
export function liesInside({ path }: ObjectShape, box: Box2): boolean {
  let isInside = true;
  visitExtremes(path, (x, y) => {
    if (x < box.minX || x > box.maxX || y < box.minY || y > box.maxY) isInside = false;
  });
  return isInside;
}

/** Whether any part of a shape lies in a box: of its lines, or of its area where it is filled. */
export function touches({ path, painted }: ObjectShape, box: Box2): boolean {
  let touched = false as boolean;
  const share: [number, number] = [0, 0];
  visitPath(path, {
    line: (x0, y0, x, y) => {
      touched ||= clipSegment(x0, y0, x, y, box, share);
    },
    quadratic: (x0, y0, cx, cy, x, y) => {
      // the same curve as a cubic
      const [ax, ay] = [x0 + (2 * (cx - x0)) / 3, y0 + (2 * (cy - y0)) / 3];
      const [bx, by] = [x + (2 * (cx - x)) / 3, y + (2 * (cy - y)) / 3];
      touched ||= cubicTouches([x0, ax, bx, x], [y0, ay, by, y], box, 0);
    },
    cubic: (x0, y0, ax, ay, bx, by, x, y) => {
      touched ||= cubicTouches([x0, ax, bx, x], [y0, ay, by, y], box, 0);
    },
    arc: (_x0, _y0, arc) => {
      touched ||= arcTouches(arc, box);
    },
  });
  if (touched || (painted & Painted.fill) === 0) return touched;
  // no edge comes into the box: it lies wholly within the area or wholly without
  return contains(path, { x: box.minX, y: box.minY }, (painted & Painted.evenOdd) !== 0);
}

type Four = readonly [number, number, number, number];
const MOST_HALVINGS = 60;

/** Halves a curve until its control points are clear of the box or a point of it lies within. */
function cubicTouches(xs: Four, ys: Four, box: Box2, depth: number): boolean {
  if (Math.max(...xs) < box.minX || Math.min(...xs) > box.maxX) return false;
  if (Math.max(...ys) < box.minY || Math.min(...ys) > box.maxY) return false;
  const holds = (x: number, y: number): boolean => x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY;
  if (holds(xs[0], ys[0]) || holds(xs[3], ys[3])) return true;
  if (depth === MOST_HALVINGS) return true; // nearer than its doubles can tell
  const [leftX, rightX] = halves(xs);
  const [leftY, rightY] = halves(ys);
  return cubicTouches(leftX, leftY, box, depth + 1) || cubicTouches(rightX, rightY, box, depth + 1);
}

/** De Casteljau's halving (P. de Casteljau, 1959). */
function halves([p, a, b, q]: Four): [Four, Four] {
  const [pa, ab, bq] = [(p + a) / 2, (a + b) / 2, (b + q) / 2];
  const [pab, abq] = [(pa + ab) / 2, (ab + bq) / 2];
  const middle = (pab + abq) / 2;
  return [
    [p, pa, pab, middle],
    [middle, abq, bq, q],
  ];
}

/** An arc touches a box if an end lies in it or it crosses one of the four sides. */
function arcTouches(arc: ArcShape, box: Box2): boolean {
  const at = (t: number): Vec2 => ({
    x: arc.cx + arc.ux * Math.cos(t) + arc.vx * Math.sin(t),
    y: arc.cy + arc.uy * Math.cos(t) + arc.vy * Math.sin(t),
  });
  const begin = at(arc.startRad);
  if (begin.x >= box.minX && begin.x <= box.maxX && begin.y >= box.minY && begin.y <= box.maxY) return true;
  for (const limit of [box.minX, box.maxX]) {
    for (const t of anglesWhere(arc.cx, arc.ux, arc.vx, limit, arc)) {
      const { y } = at(t);
      if (y >= box.minY && y <= box.maxY) return true;
    }
  }
  for (const limit of [box.minY, box.maxY]) {
    for (const t of anglesWhere(arc.cy, arc.uy, arc.vy, limit, arc)) {
      const { x } = at(t);
      if (x >= box.minX && x <= box.maxX) return true;
    }
  }
  return false;
}

/** Angles of the sweep where c + u·cos t + v·sin t has a value. */
function anglesWhere(c: number, u: number, v: number, value: number, { startRad, sweepRad }: ArcShape): number[] {
  const reach = Math.hypot(u, v);
  if (reach === 0 || Math.abs(value - c) > reach) return [];
  const middle = Math.atan2(v, u);
  const aside = Math.acos((value - c) / reach);
  const [from, to] = [Math.min(startRad, startRad + sweepRad), Math.max(startRad, startRad + sweepRad)];
  const angles: number[] = [];
  for (const base of [middle - aside, middle + aside]) {
    const first = base + Math.ceil((from - base) / (2 * Math.PI)) * 2 * Math.PI;
    for (let t = first; t <= to; t += 2 * Math.PI) angles.push(t);
  }
  return angles;
}

/** Chords keep to a curve within this share of the distance that matters. */
const CHORD_SHARE = 1e-4;

/** How near a place comes to a shape's lines. @returns Infinity beyond `reach`, drawing units */
export function distanceFrom({ path }: ObjectShape, at: Vec2, reach: number): number {
  const region = { minX: at.x - reach, minY: at.y - reach, maxX: at.x + reach, maxY: at.y + reach };
  const nearest = nearestPoint(path, at, within(CHORD_SHARE * reach, region));
  return nearest && nearest.distance <= reach ? nearest.distance : Infinity;
}

/** The point of a shape's lines that is nearest to a place; null if it has none. */
export function nearestPoint(
  path: Path,
  at: Vec2,
  closeness?: Parameters<typeof flattenPath>[2],
): { readonly x: number; readonly y: number; readonly distance: number } | null {
  let best: { x: number; y: number; distance: number } | null = null;
  let [lastX, lastY] = [0, 0];
  const consider = (x: number, y: number): void => {
    const distance = Math.hypot(x - at.x, y - at.y);
    if (!best || distance < best.distance) best = { x, y, distance };
  };
  const line = (x: number, y: number): void => {
    const [dx, dy] = [x - lastX, y - lastY];
    const square = dx * dx + dy * dy;
    const t = square > 0 ? Math.min(Math.max(((at.x - lastX) * dx + (at.y - lastY) * dy) / square, 0), 1) : 0;
    consider(lastX + dx * t, lastY + dy * t);
    [lastX, lastY] = [x, y];
  };
  const move = (x: number, y: number): void => {
    [lastX, lastY] = [x, y];
  };
  flattenPath(path, { move, line, close: () => undefined }, closeness);
  return best;
}

/**
 * Whether a place lies in a path's area, by how often its outline winds round it (D. Sunday, "Inclusion of a point in a
 * polygon", 2001). Curves are taken as chords of a ten-millionth of their size.
 */
export function contains(path: Path, at: Vec2, isEvenOdd: boolean): boolean {
  let winding = 0;
  let [startX, startY, lastX, lastY] = [0, 0, 0, 0];
  const line = (x: number, y: number): void => {
    const side = (x - lastX) * (at.y - lastY) - (at.x - lastX) * (y - lastY);
    if (lastY <= at.y && y > at.y && side > 0) winding++;
    else if (lastY > at.y && y <= at.y && side < 0) winding--;
    [lastX, lastY] = [x, y];
  };
  const begin = (x: number, y: number): void => {
    line(startX, startY); // areas are closed even where their outline isn't
    [startX, startY, lastX, lastY] = [x, y, x, y];
  };
  flattenPath(path, { move: begin, line, close: () => undefined }, { chordError: (size) => 1e-7 * size });
  line(startX, startY);
  return isEvenOdd ? winding % 2 !== 0 : winding !== 0;
}

/** The length of a shape's lines. Curves to a ten-millionth of their size. */
export function lengthOf({ path }: ObjectShape): number {
  let [length, lastX, lastY] = [0, 0, 0];
  flattenPath(
    path,
    {
      move: (x, y) => {
        [lastX, lastY] = [x, y];
      },
      line: (x, y) => {
        length += Math.hypot(x - lastX, y - lastY);
        [lastX, lastY] = [x, y];
      },
      close: () => undefined,
    },
    { chordError: (size) => 1e-7 * size },
  );
  return length;
}
