import { flattenPath, within } from '../drawing/flatten.ts';
import { PathBuilder, transformPath, type Path } from '../drawing/path.ts';
import { cross3, dot3, length3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';
import { circleThrough } from '../measure/measure-kinds.ts';
import { fromPlane, normalOf, onPlane, planeByPoints, type WorkPlane } from '../plane/work-plane.ts';
import type { Mark } from './mark.ts';

/** Lines and curves in a plane of their own; the path's coordinates are the plane's. */
export interface Stroke {
  readonly plane: WorkPlane;
  readonly path: Path;
}

const TURN = 2 * Math.PI;
/** Bumps of a cloud along its longer side, about. */
const BUMPS = 14;

/** The lines and curves of a mark: what is drawn, snapped to and written to files. */
export function strokesOf(mark: Mark): Stroke[] {
  const [first, second, third] = mark.points;
  if (!first) return [];
  const plane: WorkPlane = { origin: first, x: mark.x, y: mark.y };
  const own = (point: Vec3): Vec3 => onPlane(plane, point);
  switch (mark.kind) {
    case 'line':
    case 'chain':
      return straight(mark.points);
    case 'measure': {
      const round = mark.measure === 'radius' && second && third ? circleThrough(first, second, third) : null;
      const through = round && planeByPoints(first, second!, third!);
      if (through) return [{ plane: { ...through, origin: round.centre }, path: circle(round.radius) }];
      return straight(mark.measure === 'area' ? [...mark.points, first] : mark.points);
    }
    case 'note':
      return straight(mark.points.slice(0, 2));
    case 'rectangle': {
      if (!second) return [];
      const { x, y } = own(second);
      return [{ plane, path: rectangle(x, y) }];
    }
    case 'cloud': {
      if (!second) return [];
      const { x, y } = own(second);
      return [{ plane, path: cloud(x, y) }];
    }
    case 'circle':
      return second ? [{ plane, path: circle(length3(sub3(second, first))) }] : [];
    case 'arc':
      return second && third ? arcStroke(first, second, third) : [];
    case 'hatch':
      return (mark.rings ?? []).map((ring) => ({ plane, path: ringPath(ring) }));
    case 'box': {
      if (!second || !third) return [];
      const { x, y } = own(second);
      return [
        ...prism(plane, own(third).z, rectangle(x, y)),
        ...uprights(plane, own(third).z, [0, 0, x, 0, x, y, 0, y]),
      ];
    }
    case 'cylinder': {
      if (!second || !third) return [];
      const radius = length3(sub3(second, first));
      const feet = [radius, 0, 0, radius, -radius, 0, 0, -radius];
      return [...prism(plane, own(third).z, circle(radius)), ...uprights(plane, own(third).z, feet)];
    }
    case 'sphere': {
      if (!second) return [];
      const path = circle(length3(sub3(second, first)));
      const z = normalOf(plane);
      return [plane, { ...plane, y: z }, { ...plane, x: plane.y, y: z }].map((each) => ({ plane: each, path }));
    }
    case 'point':
    case 'plane':
      return [];
  }
}

/** Each leg in a plane of its own: it may lead anywhere. */
function straight(points: readonly Vec3[]): Stroke[] {
  const strokes: Stroke[] = [];
  for (let i = 0; i + 1 < points.length; i++) {
    const way = sub3(points[i + 1]!, points[i]!);
    const length = length3(way);
    if (length === 0) continue;
    const isFlat = way.z === 0;
    if (isFlat) {
      const plane = { origin: points[i]!, x: { x: 1, y: 0, z: 0 }, y: { x: 0, y: 1, z: 0 } };
      strokes.push({ plane, path: new PathBuilder().moveTo(0, 0).lineTo(way.x, way.y) });
      continue;
    }
    const x = scale3(way, 1 / length);
    const aside = Math.abs(x.z) < 0.9 ? { x: 0, y: 0, z: 1 } : { x: 1, y: 0, z: 0 };
    const across = cross3(aside, x);
    const plane = { origin: points[i]!, x, y: scale3(across, 1 / length3(across)) };
    strokes.push({ plane, path: new PathBuilder().moveTo(0, 0).lineTo(length, 0) });
  }
  return strokes;
}

const rectangle = (x: number, y: number): Path =>
  new PathBuilder().moveTo(0, 0).lineTo(x, 0).lineTo(x, y).lineTo(0, y).close();

function circle(radius: number): Path {
  const arc = { cx: 0, cy: 0, ux: radius, uy: 0, vx: 0, vy: radius, startRad: 0, sweepRad: TURN };
  return new PathBuilder().moveTo(radius, 0).arcTo(arc, radius, 0).close();
}

/** Half circles outwards along a rectangle's sides. */
function cloud(x: number, y: number): Path {
  const size = Math.max(Math.abs(x), Math.abs(y)) / BUMPS;
  const path = new PathBuilder().moveTo(0, 0);
  if (size === 0) return path;
  // anticlockwise corners, so that bumps lie to the right of the way
  const [left, right] = [Math.min(0, x), Math.max(0, x)];
  const [low, high] = [Math.min(0, y), Math.max(0, y)];
  const corners = [left, low, right, low, right, high, left, high];
  path.moveTo(left, low);
  for (let side = 0; side < 4; side++) {
    const [x0, y0] = [corners[2 * side]!, corners[2 * side + 1]!];
    const [x1, y1] = [corners[(2 * side + 2) % 8]!, corners[(2 * side + 3) % 8]!];
    const length = Math.hypot(x1 - x0, y1 - y0);
    const bumps = Math.max(1, Math.round(length / size));
    for (let bump = 0; bump < bumps; bump++) {
      const [from, to] = [bump / bumps, (bump + 1) / bumps];
      const [ax, ay] = [x0 + (x1 - x0) * from, y0 + (y1 - y0) * from];
      const [bx, by] = [x0 + (x1 - x0) * to, y0 + (y1 - y0) * to];
      const radius = Math.hypot(bx - ax, by - ay) / 2;
      const startRad = Math.atan2(ay - by, ax - bx);
      const arc = {
        cx: (ax + bx) / 2,
        cy: (ay + by) / 2,
        ux: radius,
        uy: 0,
        vx: 0,
        vy: radius,
        startRad,
        sweepRad: Math.PI,
      };
      if (radius > 0) path.arcTo(arc, bx, by);
    }
  }
  return path.close();
}

function arcStroke(a: Vec3, b: Vec3, c: Vec3): Stroke[] {
  const found = circleThrough(a, b, c);
  const through = planeByPoints(a, b, c);
  if (!found || !through) return [];
  const plane = { ...through, origin: found.centre };
  const angle = (p: Vec3): number => {
    const { x, y } = onPlane(plane, p);
    return Math.atan2(y, x);
  };
  const startRad = angle(a);
  const turn = (to: number): number => (((to - startRad) % TURN) + TURN) % TURN;
  const [middle, end] = [turn(angle(b)), turn(angle(c))];
  const sweepRad = middle <= end ? end : end - TURN;
  const [from, to] = [onPlane(plane, a), onPlane(plane, c)];
  const { radius } = found;
  const arc = { cx: 0, cy: 0, ux: radius, uy: 0, vx: 0, vy: radius, startRad, sweepRad };
  return [{ plane, path: new PathBuilder().moveTo(from.x, from.y).arcTo(arc, to.x, to.y) }];
}

function ringPath(ring: readonly number[]): Path {
  const path = new PathBuilder();
  for (let i = 0; i + 1 < ring.length; i += 2)
    if (i === 0) path.moveTo(ring[0]!, ring[1]!);
    else path.lineTo(ring[i]!, ring[i + 1]!);
  return path.close();
}

const raised = (plane: WorkPlane, by: number): WorkPlane => ({
  ...plane,
  origin: fromPlane(plane, { x: 0, y: 0, z: by }),
});

/** Base and top. */
const prism = (plane: WorkPlane, height: number, path: Path): Stroke[] =>
  height === 0 ? [{ plane, path }] : [plane, raised(plane, height)].map((each) => ({ plane: each, path }));

/** @param feet x, y pairs in the plane */
function uprights(plane: WorkPlane, height: number, feet: readonly number[]): Stroke[] {
  if (height === 0) return [];
  const strokes: Stroke[] = [];
  for (let i = 0; i < feet.length; i += 2) {
    const foot = { x: feet[i]!, y: feet[i + 1]! };
    strokes.push(...straight([fromPlane(plane, { ...foot, z: 0 }), fromPlane(plane, { ...foot, z: height })]));
  }
  return strokes;
}

/** A stroke as lines in the drawing. @param chordError drawing units */
export function placesOf({ plane, path }: Stroke, chordError: number): Vec3[][] {
  const runs: Vec3[][] = [];
  const add = (x: number, y: number): void => void runs.at(-1)!.push(fromPlane(plane, { x, y, z: 0 }));
  flattenPath(
    path,
    {
      move: (x, y) => {
        runs.push([]);
        add(x, y);
      },
      line: add,
      close: () => undefined,
    },
    within(chordError),
  );
  return runs;
}

/** A stroke in a level plane as a path in drawing coordinates; null if its plane is turned. */
export function levelPath({ plane, path }: Stroke): Path | null {
  const isLevel = plane.x.z === 0 && plane.y.z === 0 && dot3(normalOf(plane), { x: 0, y: 0, z: 1 }) > 0;
  if (!isLevel) return null;
  const { origin, x, y } = plane;
  return transformPath(path, { a: x.x, b: x.y, c: y.x, d: y.y, e: origin.x, f: origin.y });
}
