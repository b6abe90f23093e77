import { along3, cross3, dot3, length3, sub3, unit3, type Vec3 } from '../geometry/vec.ts';
import type { Figure } from './figures.ts';
import type { Placed } from './placed.ts';

/** Something that can be measured along points. */
export interface MeasureKind {
  readonly id: string;
  readonly name: string;
  /** One sentence. */
  readonly sentence: string;
  readonly least: number;
  readonly most: number;
  readonly isEnough?: (points: readonly Placed[]) => boolean;
  /** What is expected first, second and so on; the last for all that follow. */
  readonly expects: readonly string[];
  /** So many of its first points are faces. */
  readonly faces?: number;
  /** Whether its points are the corners of an area. */
  readonly isClosed?: boolean;
  /** What of it can be kept as plain places: another kind where its faces or its circle aren't kept. */
  readonly kept?: (points: readonly Placed[]) => { readonly measure: string; readonly points: readonly Vec3[] } | null;
  /** @returns the most important figure first; null for points that mean nothing yet */
  readonly figures: (points: readonly Placed[]) => readonly Figure[] | null;
}

const length = (name: string, value: number): Figure => ({ name, quantity: 'length', value });
const bearingOf = ({ x, y }: Vec3): Figure => ({ name: 'Bearing', quantity: 'bearing', value: Math.atan2(x, y) });

/** The length of the whole way, drawing units. */
export const wayLength = (points: readonly Vec3[]): number =>
  points.slice(1).reduce((sum, point, index) => sum + length3(sub3(point, points[index]!)), 0);

const distance: MeasureKind = {
  id: 'distance',
  name: 'Distance',
  least: 2,
  most: Infinity,
  sentence: 'Measures along the points that you click, with the parts along the axes.',
  expects: ['where the distance begins', 'the next point'],
  figures: (points) => {
    if (points.length < 2) return null;
    const [from, to] = points.slice(-2) as [Placed, Placed];
    const way = sub3(to, from);
    return [
      length('Distance', length3(way)),
      length('E', way.x),
      length('N', way.y),
      ...(way.z === 0 ? [] : [length('Z', way.z)]),
      bearingOf(way),
      ...(points.length > 2 ? [length('Total', wayLength(points))] : []),
    ];
  },
};

const angle: MeasureKind = {
  id: 'angle',
  name: 'Angle',
  least: 3,
  most: 3,
  sentence: 'Measures the angle between two arms: a point on one, the corner, a point on the other.',
  expects: ['a point on the first arm', 'the corner', 'a point on the other arm'],
  figures: ([first, corner, other]) => {
    if (!first || !corner || !other) return null;
    const [u, v] = [sub3(first, corner), sub3(other, corner)];
    // keeps all digits near 0° and 180° (W. Kahan, "Computing cross-products and rotations", 2016)
    const value = Math.atan2(length3(cross3(u, v)), dot3(u, v));
    return [
      { name: 'Angle', quantity: 'angle', value },
      { name: 'Reflex angle', quantity: 'angle', value: 2 * Math.PI - value },
      length('First arm', length3(u)),
      length('Other arm', length3(v)),
    ];
  },
};

/** The circle through three points (their bisectors, in coordinates about the first); null for points on a line. */
export function circleThrough(a: Vec3, b: Vec3, c: Vec3): { readonly centre: Vec3; readonly radius: number } | null {
  const [u, v] = [sub3(b, a), sub3(c, a)];
  const normal = cross3(u, v);
  const square = dot3(normal, normal);
  if (!(square > 1e-24 * dot3(u, u) * dot3(v, v))) return null;
  const first = cross3(normal, u);
  const second = cross3(v, normal);
  const [uu, vv] = [dot3(u, u), dot3(v, v)];
  const way = {
    x: (vv * first.x + uu * second.x) / (2 * square),
    y: (vv * first.y + uu * second.y) / (2 * square),
    z: (vv * first.z + uu * second.z) / (2 * square),
  };
  return { centre: { x: a.x + way.x, y: a.y + way.y, z: a.z + way.z }, radius: length3(way) };
}

const radius: MeasureKind = {
  id: 'radius',
  name: 'Radius',
  least: 1,
  most: 3,
  sentence: 'Measures a circle or an arc that you point at, or the circle through three points.',
  expects: ['a circle or an arc, or the first of three points on one', 'the second point', 'the third point'],
  isEnough: ([first]) => first?.round !== undefined,
  kept: (points) => {
    const round = points[0]?.round;
    if (!round) return { measure: 'radius', points };
    const { centre, radius } = round;
    const rim = (dx: number, dy: number): Vec3 => ({ ...centre, x: centre.x + dx * radius, y: centre.y + dy * radius });
    return { measure: 'radius', points: [rim(-1, 0), rim(0, 1), rim(1, 0)] };
  },
  figures: ([a, b, c]) => {
    const round = a?.round ?? (a && b && c ? circleThrough(a, b, c) : null);
    if (!round) return null;
    const { centre } = round;
    return [
      length('Radius', round.radius),
      length('Diameter', 2 * round.radius),
      length('Circumference', 2 * Math.PI * round.radius),
      { name: 'Area', quantity: 'area', value: Math.PI * round.radius ** 2 },
      length('Centre E', centre.x),
      length('Centre N', centre.y),
      ...(centre.z === 0 ? [] : [length('Centre Z', centre.z)]),
    ];
  },
};

/** Twice the area of a polygon as a vector, about its first corner (the shoelace formula). */
function areaVector(points: readonly Vec3[]): Vec3 {
  let [x, y, z] = [0, 0, 0];
  const [first] = points;
  for (let i = 1; i + 1 < points.length; i++) {
    const turn = cross3(sub3(points[i]!, first!), sub3(points[i + 1]!, first!));
    [x, y, z] = [x + turn.x, y + turn.y, z + turn.z];
  }
  return { x, y, z };
}

const area: MeasureKind = {
  id: 'area',
  name: 'Area',
  least: 3,
  most: Infinity,
  isClosed: true,
  sentence: 'Measures the area and perimeter of the corners that you click.',
  expects: ['the first corner', 'the next corner'],
  figures: (points) => {
    if (points.length < 3) return null;
    return [
      { name: 'Area', quantity: 'area', value: length3(areaVector(points)) / 2 },
      length('Perimeter', wayLength([...points, points[0]!])),
      { name: 'Corners', quantity: 'plain', value: points.length },
    ];
  },
};

const height: MeasureKind = {
  id: 'height',
  name: 'Height',
  least: 2,
  most: 2,
  sentence: 'Measures how much higher one point lies than another.',
  expects: ['the point to measure from', 'the other point'],
  figures: ([from, to]) => {
    if (!from || !to) return null;
    const way = sub3(to, from);
    const level = Math.hypot(way.x, way.y);
    return [
      length('Height', way.z),
      length('Level distance', level),
      { name: 'Slope', quantity: 'angle', value: Math.atan2(way.z, level) },
    ];
  },
};

/** Faces whose normals differ by less are parallel, rad. */
const PARALLEL_RAD = 1e-6;

const faces: MeasureKind = {
  id: 'faces',
  name: 'To a face',
  least: 2,
  most: 2,
  faces: 1,
  sentence: 'Measures between two faces, or from a point to a face, at right angles to it.',
  expects: ['a face', 'another face, or a point'],
  kept: ([first, other]) => {
    const [face, point] = first?.normal ? [first, other] : [other, first];
    if (!face?.normal || !point) return null;
    const normal = unit3(face.normal);
    return { measure: 'distance', points: [point, along3(point, normal, -dot3(sub3(point, face), normal))] };
  },
  figures: ([first, other]) => {
    if (!first || !other) return null;
    const face = first.normal ? first : other;
    if (!face.normal) return null;
    const way = sub3(other, first);
    const normal = unit3(face.normal);
    const across = Math.abs(dot3(way, normal));
    if (!first.normal || !other.normal)
      return [length('Point to face', across), length('Between the points', length3(way))];
    const turn = Math.atan2(length3(cross3(normal, other.normal)), Math.abs(dot3(normal, other.normal)));
    const between: Figure = { name: 'Angle of the faces', quantity: 'angle', value: turn };
    return turn <= PARALLEL_RAD
      ? [length('Face to face', across), between, length('Between the points', length3(way))]
      : [between, length('Point to the first face', across), length('Between the points', length3(way))];
  },
};

export const measureKinds: readonly MeasureKind[] = [distance, angle, radius, area, height, faces];
/** The kind of measurement with this id, if there is one. */
export const measureKindOf = (id: string): MeasureKind | undefined => measureKinds.find((kind) => kind.id === id);
