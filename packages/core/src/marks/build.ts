import { length3, sub3, type Vec3 } from '../geometry/vec.ts';
import { circleThrough } from '../measure/measure-kinds.ts';
import { planeByPoints, type WorkPlane } from '../plane/work-plane.ts';
import type { Mark, MarkKind } from './mark.ts';

/** What a way of drawing makes: all of a mark but its look. */
export type MarkShape = Pick<Mark, 'kind' | 'points' | 'x' | 'y' | 'text'> & Partial<Pick<Mark, 'measure' | 'rings'>>;

/** A way to draw a mark by points. */
export interface MarkWay {
  readonly id: string;
  readonly name: string;
  /** One sentence. */
  readonly sentence: string;
  readonly least: number;
  readonly most: number;
  readonly expects: readonly string[];
  /** The drawings it is for; absent if for any. */
  readonly for?: 'flat' | 'solid';
  /** Whether a text is asked for at its end. */
  readonly asksText?: boolean;
  /** @returns null while the points make nothing, or nothing that could be seen */
  readonly make: (points: readonly Vec3[], plane: WorkPlane) => MarkShape | null;
}

const made =
  (kind: MarkKind, least: number) =>
  (points: readonly Vec3[], { x, y }: WorkPlane): MarkShape | null =>
    points.length >= least && isSomething(points) ? { kind, points, x, y, text: '' } : null;

/** Whether points aren't all one. */
const isSomething = (points: readonly Vec3[]): boolean =>
  points.length === 1 || points.some((point) => length3(sub3(point, points[0]!)) > 0);

/** The same places in the order in which they are clicked. */
const plain = (way: Omit<MarkWay, 'make' | 'most'> & { readonly kind: MarkKind; readonly most?: number }): MarkWay => {
  const { kind, ...rest } = way;
  return { most: way.least, ...rest, make: made(kind, way.least) };
};

function round(centre: Vec3, rim: Vec3, plane: WorkPlane): MarkShape | null {
  return length3(sub3(rim, centre)) > 0
    ? { kind: 'circle', points: [centre, rim], x: plane.x, y: plane.y, text: '' }
    : null;
}

export const markWays: readonly MarkWay[] = [
  plain({
    id: 'point',
    kind: 'point',
    name: 'Point',
    least: 1,
    sentence: 'Marks a place.',
    expects: ['where the point shall be'],
  }),
  plain({
    id: 'line',
    kind: 'line',
    name: 'Line',
    least: 2,
    sentence: 'Draws a straight line between two points.',
    expects: ['where the line begins', 'where it ends'],
  }),
  plain({
    id: 'chain',
    kind: 'chain',
    name: 'Polyline',
    least: 2,
    most: Infinity,
    sentence: 'Draws connected straight lines.',
    expects: ['where the chain begins', 'the next place'],
  }),
  plain({
    id: 'rectangle',
    kind: 'rectangle',
    name: 'Rectangle',
    least: 2,
    sentence: 'Draws a rectangle along the axes of the work plane.',
    expects: ['a corner', 'the opposite corner'],
  }),
  {
    id: 'circle',
    name: 'Circle by its centre',
    least: 2,
    most: 2,
    sentence: 'Draws a circle about a centre.',
    expects: ['the centre', 'a place on the circle'],
    make: ([centre, rim], plane) => (centre && rim ? round(centre, rim, plane) : null),
  },
  {
    id: 'circle-two',
    name: 'Circle by two places',
    least: 2,
    most: 2,
    sentence: 'Draws the circle whose diameter lies between two places.',
    expects: ['one end of the diameter', 'the other end'],
    make: ([a, b], plane) =>
      a && b ? round({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, z: (a.z + b.z) / 2 }, b, plane) : null,
  },
  {
    id: 'circle-three',
    name: 'Circle by three places',
    least: 3,
    most: 3,
    sentence: 'Draws the circle through three places.',
    expects: ['a place on the circle', 'a second place on it', 'a third place on it'],
    make: ([a, b, c]) => {
      const circle = a && b && c ? circleThrough(a, b, c) : null;
      const through = circle && planeByPoints(a!, b!, c!);
      return circle && through ? round(circle.centre, c!, through) : null;
    },
  },
  {
    id: 'arc',
    name: 'Arc',
    least: 3,
    most: 3,
    sentence: 'Draws the arc from one place through another to a third.',
    expects: ['where the arc begins', 'a place on the arc', 'where it ends'],
    make: (points) => {
      const [a, b, c] = points;
      const through = a && b && c ? planeByPoints(a, b, c) : null;
      return through ? { kind: 'arc', points, x: through.x, y: through.y, text: '' } : null;
    },
  },
  plain({
    id: 'note',
    kind: 'note',
    name: 'Note',
    least: 2,
    asksText: true,
    sentence: 'Writes a text with a leader.',
    expects: ['what the note is about', 'where the text shall stand'],
  }),
  plain({
    id: 'cloud',
    kind: 'cloud',
    name: 'Cloud',
    least: 2,
    sentence: 'Draws a cloud around what has changed or is in question.',
    expects: ['a corner', 'the opposite corner'],
  }),
  plain({
    id: 'hatch',
    kind: 'hatch',
    name: 'Hatch',
    least: 1,
    for: 'flat',
    sentence: 'Hatches the closed area around the place that you click, islands left out.',
    expects: ['a place within the area'],
  }),
  plain({
    id: 'box',
    kind: 'box',
    name: 'Box',
    least: 3,
    for: 'solid',
    sentence: 'Draws a box on the work plane.',
    expects: ['a corner of its base', 'the opposite corner', 'how high it shall be'],
  }),
  plain({
    id: 'cylinder',
    kind: 'cylinder',
    name: 'Cylinder',
    least: 3,
    for: 'solid',
    sentence: 'Draws a cylinder on the work plane.',
    expects: ['the centre of its base', 'a place on its rim', 'how high it shall be'],
  }),
  plain({
    id: 'sphere',
    kind: 'sphere',
    name: 'Sphere',
    least: 2,
    for: 'solid',
    sentence: 'Draws a sphere about a centre.',
    expects: ['the centre', 'a place on the sphere'],
  }),
];

/** Places of a mark moved along. */
export const movedBy = (mark: Mark, way: Vec3): Mark => ({
  ...mark,
  points: mark.points.map((p) => ({ x: p.x + way.x, y: p.y + way.y, z: p.z + way.z })),
});

/** A mark turned about an axis through a place (O. Rodrigues, 1840). @param axis unit vector */
export function turnedAbout(mark: Mark, centre: Vec3, axis: Vec3, angleRad: number): Mark {
  const [cos, sin] = [Math.cos(angleRad), Math.sin(angleRad)];
  const turn = (v: Vec3): Vec3 => {
    const along = (axis.x * v.x + axis.y * v.y + axis.z * v.z) * (1 - cos);
    return {
      x: v.x * cos + (axis.y * v.z - axis.z * v.y) * sin + axis.x * along,
      y: v.y * cos + (axis.z * v.x - axis.x * v.z) * sin + axis.y * along,
      z: v.z * cos + (axis.x * v.y - axis.y * v.x) * sin + axis.z * along,
    };
  };
  const place = (p: Vec3): Vec3 => {
    const { x, y, z } = turn(sub3(p, centre));
    return { x: centre.x + x, y: centre.y + y, z: centre.z + z };
  };
  return { ...mark, points: mark.points.map(place), x: turn(mark.x), y: turn(mark.y) };
}

/** Kinds whose first point carries the whole mark. */
const carried: ReadonlySet<MarkKind> = new Set(['circle', 'cylinder', 'sphere', 'hatch', 'plane']);

/** A mark with one of its points elsewhere. */
export function withPoint(mark: Mark, index: number, to: Vec3): Mark {
  const from = mark.points[index];
  if (!from) return mark;
  if (index === 0 && carried.has(mark.kind)) return movedBy(mark, sub3(to, from));
  return { ...mark, points: mark.points.map((point, k) => (k === index ? to : point)) };
}
