import { inUnit, isLengthUnit, type DrawingUnit } from '../drawing/units.ts';

/**
 * Places, lengths and angles as they are typed, in the find field and while points are placed:
 *
 *   412600500, 7208400250     a place: east, north; a third number is the height (spaces within numbers are fine)
 *   by 1500, −200             so far from the point before, east and north (and up)
 *   1500 at 30                so far from it, 30° anticlockwise from east
 *   1500 bearing 30           so far from it, 30° clockwise from north
 *   1500                      so far from it, towards the cursor
 *   at 30                     an angle: in that direction, as far as the cursor is
 *
 * A length may have a unit: 1.5 m, 12 in. On a work plane its axes stand for east, north and up.
 */
export type Typed =
  | { readonly kind: 'place'; readonly x: number; readonly y: number; readonly z: number | null }
  | { readonly kind: 'by'; readonly x: number; readonly y: number; readonly z: number }
  | { readonly kind: 'length'; readonly length: number }
  | { readonly kind: 'angle'; readonly angleRad: number };

/** One example of each form, with what it means. */
export const typedExamples: readonly (readonly [example: string, meaning: string])[] = [
  ['412600500, 7208400250', 'a place, east and north'],
  ['by 1500, -200', 'so far from the point before'],
  ['1500 at 30', 'so far, 30° anticlockwise from east'],
  ['1500 bearing 30', 'so far, 30° clockwise from north'],
  ['1500', 'so far, towards the cursor'],
];

const NUMBER = '[+−-]?\\d[\\d ]*(?:\\.\\d+)?|[+−-]?\\.\\d+';
const LENGTH = `(${NUMBER}) ?(mm|m|in|ft)?`;
const LETTER = (letter: string): string => `(?:${letter} ?)?`;
const list = new RegExp(
  `^(by )?${LETTER('E')}${LENGTH} ?[,;] ?${LETTER('N')}${LENGTH}(?: ?[,;] ?${LETTER('Z')}${LENGTH})?$`,
  'i',
);
const polar = new RegExp(`^${LENGTH} (at|bearing) (${NUMBER}) ?°?$`, 'i');
const angle = new RegExp(`^(at|bearing) (${NUMBER}) ?°?$`, 'i');
const plain = new RegExp(`^${LENGTH}$`, 'i');
/** Two numbers with only a space between them are a place, too. */
const spaced = new RegExp(`^${LETTER('E')}([+−-]?[\\d.]+) ${LETTER('N')}([+−-]?[\\d.]+)$`, 'i');

/**
 * @param unit of the drawing: what numbers without one are in
 * @returns null for what is none of these
 */
export function parseTyped(input: string, unit: DrawingUnit): Typed | null {
  const text = input.trim().replace(/\s+/g, ' ');
  const listed = list.exec(text);
  if (listed) {
    const [, by, e, eUnit, n, nUnit, z, zUnit] = listed;
    const [x, y] = [lengthOf(e!, eUnit, unit), lengthOf(n!, nUnit, unit)];
    const up = z === undefined ? null : lengthOf(z, zUnit, unit);
    return by ? { kind: 'by', x, y, z: up ?? 0 } : { kind: 'place', x, y, z: up };
  }
  const [, length, lengthUnit, word, degrees] = polar.exec(text) ?? [];
  if (length !== undefined) {
    const size = lengthOf(length, lengthUnit, unit);
    const { cos, sin } = directionOf(numberOf(degrees!), word!);
    return { kind: 'by', x: size * cos, y: size * sin, z: 0 };
  }
  const [, about, turn] = angle.exec(text) ?? [];
  if (turn !== undefined) {
    const degreesFromEast = about!.toLowerCase() === 'at' ? numberOf(turn) : 90 - numberOf(turn);
    return { kind: 'angle', angleRad: (degreesFromEast * Math.PI) / 180 };
  }
  const [, east, north] = spaced.exec(text) ?? [];
  if (east !== undefined) {
    const [x, y] = [numberOf(east), numberOf(north!)];
    return Number.isFinite(x) && Number.isFinite(y) ? { kind: 'place', x, y, z: null } : null;
  }
  const [, only, onlyUnit] = plain.exec(text) ?? [];
  return only === undefined ? null : { kind: 'length', length: lengthOf(only, onlyUnit, unit) };
}

const numberOf = (text: string): number => Number(text.replaceAll(' ', '').replace('−', '-'));

function lengthOf(text: string, suffix: string | undefined, unit: DrawingUnit): number {
  const own = suffix?.toLowerCase();
  return own !== undefined && isLengthUnit(own) ? inUnit(numberOf(text), own, unit) : numberOf(text);
}

/** Right angles are exact. */
function directionOf(degrees: number, word: string): { readonly cos: number; readonly sin: number } {
  const fromEast = word.toLowerCase() === 'at' ? degrees : 90 - degrees;
  const quarter = fromEast / 90;
  if (Number.isInteger(quarter)) {
    const turn = ((quarter % 4) + 4) % 4;
    return { cos: [1, 0, -1, 0][turn]!, sin: [0, 1, 0, -1][turn]! };
  }
  const rad = (fromEast * Math.PI) / 180;
  return { cos: Math.cos(rad), sin: Math.sin(rad) };
}
