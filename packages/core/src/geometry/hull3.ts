import { convexHull } from './hull.ts';

/** Convex hulls in space: what a tight fit from any direction needs. */

/** A face of a hull: what lies inside has normal · point ≤ reach. */
export interface Plane {
  readonly corners: readonly [number, number, number];
  readonly normal: readonly [number, number, number];
  readonly reach: number;
  /** Points before it that no other face has taken, the farthest of them first. */
  outside: number[];
  /** The faces across its edges, which run from each corner to the next. */
  readonly neighbours: [Plane | null, Plane | null, Plane | null];
  /** Whether it has given way to others. */
  isGone: boolean;
}

/** Points nearer to a plane than this share of the cloud's size lie in it. */
const FLATNESS = 1e-10;
/** Steps of the grid that points are taken to, to the cloud's size: finer than any px, coarser than single precision. */
const STEPS = 2 ** 24;

/**
 * The corners of the convex hull.
 * @param points x, y, z triples; differences to the first are taken, so that large coordinates keep their digits
 * @returns x, y, z triples of the corners; for points in a plane those of their outline
 */
export function convexHull3(points: ArrayLike<number>): Float64Array {
  const corners = hullCorners(points);
  const hull = new Float64Array(3 * corners.length);
  let at = 0;
  for (const corner of corners) for (let axis = 0; axis < 3; axis++) hull[at++] = points[3 * corner + axis]!;
  return hull;
}

/** Which points are the corners of {@link convexHull3}. */
export function hullCorners(points: ArrayLike<number>): number[] {
  const near = nearFirst(points);
  const planes = hullPlanes(near);
  return [...(planes ? new Set(planes.flatMap((plane) => plane.corners)) : flatCorners(near))];
}

/** Differences to the first point, on a grid: what lies in one plane but for rounding then lies in it exactly. */
export function nearFirst(points: ArrayLike<number>): Float64Array {
  const near = new Float64Array(points.length);
  for (let i = 0; i < near.length; i++) near[i] = points[i]! - points[i % 3]!;
  const size = sizeOf(near);
  if (size === 0) return near;
  const step = 2 ** Math.ceil(Math.log2(size)) / STEPS;
  for (let i = 0; i < near.length; i++) near[i] = Math.round(near[i]! / step) * step;
  return near;
}

/** The largest coordinate of some points, whatever its sign. */
function sizeOf(points: Float64Array): number {
  let most = 0;
  for (let i = 0; i < points.length; i++) most = Math.max(most, Math.abs(points[i]!));
  return most;
}

/**
 * The faces of the hull (C. B. Barber, D. P. Dobkin, H. Huhdanpaa, "The Quickhull algorithm for convex hulls", ACM
 * Transactions on Mathematical Software 22, 1996): the faces that see the farthest point before one of them give way to
 * new ones round their border. They are found from neighbour to neighbour, so that a point costs what it changes.
 * @returns null if all points lie in a plane
 */
export function hullPlanes(points: Float64Array): Plane[] | null {
  const count = points.length / 3;
  const size = sizeOf(points);
  const flat = size * FLATNESS;
  const start = firstTetrahedron(points, flat);
  if (!start) return null;
  const [a, b, c, d] = start;
  const planes = [
    planeOf(points, a, b, c),
    planeOf(points, a, d, b),
    planeOf(points, b, d, c),
    planeOf(points, c, d, a),
  ];
  linkFirst(planes);
  share(
    points,
    Array.from({ length: count }, (_, p) => p),
    planes,
    flat,
  );
  const open = planes.filter(({ outside }) => outside.length > 0);
  for (let next = open.pop(); next; next = open.pop()) {
    if (next.isGone || next.outside.length === 0) continue;
    const p = next.outside[0]!;
    const { seeing, border } = seenFrom(points, next, p, flat);
    const made = closeOver(points, border, p);
    if (!made) {
      // rounding has torn the border: the point lies in the hull but for that
      for (const plane of seeing) plane.isGone = false;
      next.outside.shift();
      if (next.outside.length > 0) open.push(next);
      continue;
    }
    planes.push(...made);
    const orphans: number[] = [];
    for (const plane of seeing) {
      for (const q of plane.outside) orphans.push(q);
      plane.outside = [];
    }
    share(points, orphans, made, flat);
    for (const plane of made) if (plane.outside.length > 0) open.push(plane);
  }
  return planes.filter(({ isGone }) => !isGone);
}

/** An edge between a face that sees a point and one that doesn't. */
interface BorderEdge {
  readonly from: number;
  readonly to: number;
  readonly beyond: Plane;
}

/** The faces that see a point, which are marked as gone, and the edges around them. */
function seenFrom(
  points: Float64Array,
  first: Plane,
  p: number,
  flat: number,
): { readonly seeing: readonly Plane[]; readonly border: readonly BorderEdge[] } {
  const seeing = [first];
  const border: BorderEdge[] = [];
  first.isGone = true;
  for (let at = 0; at < seeing.length; at++) {
    const { corners, neighbours } = seeing[at]!;
    for (let edge = 0; edge < 3; edge++) {
      const beyond = neighbours[edge]!;
      if (beyond.isGone) continue;
      if (above(beyond, points, p) > flat) {
        beyond.isGone = true;
        seeing.push(beyond);
      } else border.push({ from: corners[edge]!, to: corners[(edge + 1) % 3]!, beyond });
    }
  }
  return { seeing, border };
}

/** New faces from a border to a point, linked with those beyond it; null if the border isn't one ring. */
function closeOver(points: Float64Array, border: readonly BorderEdge[], p: number): Plane[] | null {
  const edgeFrom = new Map(border.map((edge) => [edge.from, edge]));
  if (edgeFrom.size !== border.length) return null;
  let length = 0;
  for (let edge = border[0]; edge; edge = edgeFrom.get(edge.to)) {
    length++;
    if (edge.to === border[0]!.from || length > border.length) break;
  }
  if (length !== border.length) return null;
  const made = new Map<number, Plane>();
  for (const { from, to, beyond } of border) {
    const plane = planeOf(points, from, to, p);
    plane.neighbours[0] = beyond;
    beyond.neighbours[beyond.corners.indexOf(to)] = plane;
    made.set(from, plane);
  }
  for (const plane of made.values()) {
    const next = made.get(plane.corners[1])!;
    plane.neighbours[1] = next;
    next.neighbours[2] = plane;
  }
  return [...made.values()];
}

/** Links the faces of a tetrahedron. */
function linkFirst(planes: readonly Plane[]): void {
  for (const plane of planes)
    plane.corners.forEach((from, edge) => {
      const to = plane.corners[(edge + 1) % 3]!;
      plane.neighbours[edge] = planes.find(({ corners }) =>
        corners.some((corner, k) => corner === to && corners[(k + 1) % 3] === from),
      )!;
    });
}

/** Gives each point to the first plane that it lies before. */
function share(points: Float64Array, given: readonly number[], planes: readonly Plane[], flat: number): void {
  const farthest = new Float64Array(planes.length);
  for (const p of given)
    for (let at = 0; at < planes.length; at++) {
      const plane = planes[at]!;
      const height = above(plane, points, p);
      if (height <= flat) continue;
      const { outside } = plane;
      outside.push(p);
      if (height > farthest[at]!) {
        farthest[at] = height;
        outside[outside.length - 1] = outside[0]!;
        outside[0] = p;
      }
      break;
    }
}

function planeOf(points: Float64Array, a: number, b: number, c: number): Plane {
  const at = (vertex: number, axis: 0 | 1 | 2): number => points[3 * vertex + axis]!;
  const [ux, uy, uz] = [at(b, 0) - at(a, 0), at(b, 1) - at(a, 1), at(b, 2) - at(a, 2)];
  const [vx, vy, vz] = [at(c, 0) - at(a, 0), at(c, 1) - at(a, 1), at(c, 2) - at(a, 2)];
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const length = Math.sqrt(x * x + y * y + z * z) || 1;
  const normal = [x / length, y / length, z / length] as const;
  const reach = normal[0] * at(a, 0) + normal[1] * at(a, 1) + normal[2] * at(a, 2);
  return { corners: [a, b, c], normal, reach, outside: [], neighbours: [null, null, null], isGone: false };
}

const above = ({ normal, reach }: Plane, points: ArrayLike<number>, p: number): number =>
  normal[0] * points[3 * p]! + normal[1] * points[3 * p + 1]! + normal[2] * points[3 * p + 2]! - reach;

/** Four points that span as much room as can be found in one go, their first three anticlockwise seen from outside. */
function firstTetrahedron(points: Float64Array, flat: number): [number, number, number, number] | null {
  const count = points.length / 3;
  const most = (measure: (p: number) => number): [number, number] => {
    let [best, value] = [0, -Infinity];
    for (let p = 0; p < count; p++) {
      const own = measure(p);
      if (own > value) [best, value] = [p, own];
    }
    return [best, value];
  };
  const gap = (p: number, q: number, axis: 0 | 1 | 2): number => points[3 * p + axis]! - points[3 * q + axis]!;
  const lengthOf = (x: number, y: number, z: number): number => Math.sqrt(x * x + y * y + z * z);
  const [a] = most((p) => points[3 * p]!);
  const [b, apart] = most((p) => lengthOf(gap(p, a, 0), gap(p, a, 1), gap(p, a, 2)));
  if (!(apart > flat)) return null;
  const [ux, uy, uz] = [gap(b, a, 0) / apart, gap(b, a, 1) / apart, gap(b, a, 2) / apart];
  const [c, aside] = most((p) => {
    const [x, y, z] = [gap(p, a, 0), gap(p, a, 1), gap(p, a, 2)];
    const reach = x * ux + y * uy + z * uz;
    return lengthOf(x - reach * ux, y - reach * uy, z - reach * uz);
  });
  if (!(aside > flat)) return null;
  const base = planeOf(points, a, b, c);
  const [d, height] = most((p) => Math.abs(above(base, points, p)));
  if (!(height > flat)) return null;
  return above(base, points, d) > 0 ? [a, c, b, d] : [a, b, c, d];
}

/** Corners of the outlines in the three main directions: of points in a plane all that can be extreme are among them. */
export function flatCorners(points: Float64Array): Set<number> {
  const chosen = new Set<number>();
  for (const [u, v] of [
    [0, 1],
    [1, 2],
    [2, 0],
  ] as const) {
    const places = new Map<string, number>();
    const flat: number[] = [];
    for (let p = 0; p < points.length / 3; p++) {
      const [x, y] = [points[3 * p + u]!, points[3 * p + v]!];
      places.set(`${x} ${y}`, p);
      flat.push(x, y);
    }
    const outline = convexHull(flat);
    for (let i = 0; i < outline.length; i += 2) chosen.add(places.get(`${outline[i]!} ${outline[i + 1]!}`)!);
  }
  return chosen;
}
