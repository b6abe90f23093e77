import type { DrawingUnit } from '../drawing/units.ts';
import { readBearing, readDegrees, readLength, readNumber } from './typed-number.ts';

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
 * Numbers are read by the rules of typed-number.ts: with a decimal point or comma, with units (1.5 m, 12 in), bearings
 * also as N45E. Ambiguous input is refused with both meanings. On a work plane its axes stand for east, north and up.
 */
export type Typed =
  | { readonly kind: 'place'; readonly x: number; readonly y: number; readonly z: number | null }
  | { readonly kind: 'by'; readonly x: number; readonly y: number; readonly z: number }
  | { readonly kind: 'length'; readonly length: number }
  | { readonly kind: 'angle'; readonly angleRad: number }
  /** It can mean two things. */
  | { readonly kind: 'unclear'; readonly trouble: string };

/** One example of each form, with what it means. */
export const typedExamples: readonly (readonly [example: string, meaning: string])[] = [
  ['412600500, 7208400250', 'a place, east and north'],
  ['by 1500, -200', 'so far from the point before'],
  ['1500 at 30', 'so far, 30° anticlockwise from east'],
  ['1500 bearing 30', 'so far, 30° clockwise from north'],
  ['1500', 'so far, towards the cursor'],
];

/**
 * @param unit of the drawing: what numbers without one are in
 * @returns null for what is none of these
 */
export function parseTyped(input: string, unit: DrawingUnit): Typed | null {
  const text = input.trim().replace(/\s+/g, ' ');
  const [, by, listed = ''] = /^(by )?(.*)$/i.exec(text) ?? [];
  const parts = partsOf(listed);
  if (parts) {
    const [x, y, up = null] = parts.map((part) => lengthOf(part, unit));
    if (parts.length > 3 || x === null || y === null || x === undefined || y === undefined) return null;
    if (parts.length === 3 && up === null) return null;
    return by === undefined ? { kind: 'place', x, y, z: up } : { kind: 'by', x, y, z: up ?? 0 };
  }
  if (by !== undefined) return null;
  const [, far, word, about] = /^(?:(.+?) )?(at|bearing) (.+)$/i.exec(text) ?? [];
  if (word !== undefined) {
    const isBearing = word.toLowerCase() === 'bearing';
    const read = (isBearing ? readBearing : readDegrees)(about!);
    if ('trouble' in read) return null;
    const degreesFromEast = isBearing ? 90 - read.value : read.value;
    if (far === undefined) return { kind: 'angle', angleRad: (degreesFromEast * Math.PI) / 180 };
    const length = lengthOf(far, unit);
    if (length === null) return null;
    const { cos, sin } = directionOf(degreesFromEast);
    return { kind: 'by', x: length * cos, y: length * sin, z: 0 };
  }
  if (canBePlace(text)) {
    const [x, y] = text.split(',') as [string, string];
    return { kind: 'unclear', trouble: `“${text}” can mean the place ${x}, ${y} or ${x}.${y}: write one of these.` };
  }
  const length = readLength(text, unit);
  if ('value' in length) return { kind: 'length', length: length.value };
  return /^[+−-]?\d[\d ]*,\d{3}(?: ?[a-z]+)?$/i.test(text) ? { kind: 'unclear', trouble: length.trouble } : null;
}

const lengthOf = (text: string, unit: DrawingUnit): number | null => {
  const read = readLength(text, unit);
  return 'value' in read ? read.value : null;
};

/** A comma without a blank between few digits: a place in short, or one number with a decimal comma. */
const canBePlace = (text: string): boolean => /^[+−-]?\d+,\d{1,3}$/.test(text);

/** The numbers of a place, as they are typed: after their letters, between semicolons, commas or blanks. */
function partsOf(text: string): string[] | null {
  const [, e, n, z] = /^E ?(.+?) ?[,;]? ?N ?(.+?)(?: ?[,;]? ?Z ?(.+))?$/i.exec(text) ?? [];
  if (e !== undefined) return [e, n!, ...(z === undefined ? [] : [z])];
  if (text.includes(';')) return text.split(/ ?; ?/);
  if (text.includes(', ')) return text.split(/ ?, /);
  if (/^[^ ]+,[^ ]+$/.test(text) && !/[a-z]/i.test(text)) return canBePlace(text) ? null : text.split(',');
  const isNumber = (part: string): boolean => 'value' in readNumber(part);
  if (isNumber(text)) return null;
  // the blanks may group digits, too: where only one way of parting them leaves two numbers, it is meant
  const words = text.split(' ');
  const ways = words
    .map((_, k) => [words.slice(0, k).join(' '), words.slice(k).join(' ')])
    .filter((way) => way.every(isNumber));
  return ways.length === 1 ? ways[0]! : null;
}

/** Right angles are exact. */
function directionOf(degreesFromEast: number): { readonly cos: number; readonly sin: number } {
  const quarter = degreesFromEast / 90;
  if (Number.isInteger(quarter)) {
    const turn = ((quarter % 4) + 4) % 4;
    return { cos: [1, 0, -1, 0][turn]!, sin: [0, 1, 0, -1][turn]! };
  }
  const rad = (degreesFromEast * Math.PI) / 180;
  return { cos: Math.cos(rad), sin: Math.sin(rad) };
}
