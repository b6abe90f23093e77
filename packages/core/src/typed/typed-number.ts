/**
 * Numbers, lengths, angles, bearings and scales as people type them. Each is understood in the one way it can be meant,
 * or refused in words: never guessed.
 */
import { inUnit, lengthUnits, type DrawingUnit, type LengthUnit } from '../drawing/units.ts';

/** What was understood, or why nothing was. */
export type Reading<T> = { readonly value: T } | { readonly trouble: string };

/** Every kind of blank, also the thin ones that group digits. */
const BLANKS = /[\s\u00a0\u2007\u2009\u202f]+/g;

const digitsOf = (text: string): string => text.replace(BLANKS, '').replace('−', '-');

/** What a number written with one comma before three digits can mean. */
const unclearComma = (text: string): Reading<never> => {
  const [grouped, decimal] = [text.replace(',', ''), text.replace(',', '.')];
  return { trouble: `“${text}” can mean ${grouped} or ${decimal}: write one of these.` };
};

/**
 * A number with a decimal point or a decimal comma; blanks, commas or points may group its digits by three.
 * @param isWhole a comma before three digits groups them: of numbers that are whole as a rule, as those of scales
 */
export function readNumber(text: string, isWhole = false): Reading<number> {
  const plain = digitsOf(text.trim());
  if (plain === '') return { trouble: 'Type a number.' };
  const refused: Reading<never> = { trouble: `“${text.trim()}” is no number.` };
  const [, sign = '', body = ''] = /^([+-]?)([\d.,]+)$/.exec(plain) ?? [];
  if (!/\d/.test(body)) return refused;
  // what is typed in groups is typed in groups of three
  if (/\d\s/.test(text.trim()) && !/^[+−-]?\d{1,3}(\s\d{3})*([.,]\d+)?$/.test(text.trim().replace(BLANKS, ' ')))
    return refused;
  const points = body.split('.').length - 1;
  const commas = body.split(',').length - 1;
  const valueOf = (digits: string): Reading<number> => ({ value: Number(sign + digits) });
  const ungrouped = (digits: string, mark: string): Reading<number> =>
    /^\d{1,3}$/.test(digits.split(mark)[0]!) &&
    digits
      .split(mark)
      .slice(1)
      .every((group) => /^\d{3}$/.test(group))
      ? valueOf(digits.replaceAll(mark, ''))
      : refused;
  if (points > 0 && commas > 0) {
    // the last one is the decimal mark, the other groups
    const [decimal, group] = body.lastIndexOf('.') > body.lastIndexOf(',') ? ['.', ','] : [',', '.'];
    const [whole = '', fraction = '', ...more] = body.split(decimal);
    if (more.length > 0 || !/^\d+$/.test(fraction)) return refused;
    const grouped = ungrouped(whole, group);
    return 'trouble' in grouped ? grouped : { value: Number(`${sign}${whole.replaceAll(group, '')}.${fraction}`) };
  }
  if (commas > 1) return ungrouped(body, ',');
  if (points > 1) return ungrouped(body, '.');
  if (commas === 1) {
    if (!/^[1-9]\d{0,2},\d{3}$/.test(body) || /\d\s/.test(text.trim())) return valueOf(body.replace(',', '.'));
    return isWhole ? valueOf(body.replace(',', '')) : unclearComma(text.trim());
  }
  return valueOf(body);
}

const LENGTH = new RegExp(`^(.*?)\\s*(${lengthUnits.join('|')}|cm|km|"|'|″|′)?$`, 'i');
const unitNames: Readonly<Record<string, readonly [unit: LengthUnit, times: number]>> = {
  mm: ['mm', 1],
  m: ['m', 1],
  in: ['in', 1],
  ft: ['ft', 1],
  cm: ['mm', 10],
  km: ['m', 1000],
  '"': ['in', 1],
  '″': ['in', 1],
  "'": ['ft', 1],
  '′': ['ft', 1],
};

/**
 * A length, with a unit or without.
 * @param unit what it is wanted in, and what a number without a unit is in
 */
export function readLength(text: string, unit: DrawingUnit): Reading<number> {
  const [, number = '', suffix] = LENGTH.exec(text.trim()) ?? [];
  const read = readNumber(number);
  if ('trouble' in read || suffix === undefined) return read;
  const [from, times] = unitNames[suffix.toLowerCase()]!;
  return { value: inUnit(read.value * times, from, unit) };
}

/** Degrees; also in minutes and seconds: 12° 30′ 36″. A turn in radians or gon isn't meant. @returns degrees */
export function readDegrees(text: string): Reading<number> {
  const trimmed = text.trim();
  const [, sign, degrees, minutes, seconds] =
    /^([+−-]?)\s*([\d.,]+)\s*°\s*(?:([\d.,]+)\s*[′'])?\s*(?:([\d.,]+)\s*[″"])?$/.exec(trimmed) ?? [];
  if (degrees === undefined) return readNumber(trimmed.replace(/\s*(?:°|deg)$/i, ''));
  let value = 0;
  for (const [part, share] of [
    [degrees, 1],
    [minutes, 60],
    [seconds, 3600],
  ] as const) {
    if (part === undefined) continue;
    const read = readNumber(part);
    if ('trouble' in read) return read;
    if (share > 1 && read.value >= 60) return { trouble: `“${trimmed}” has more than 59 minutes or seconds.` };
    value += read.value / share;
  }
  return { value: sign === '−' || sign === '-' ? -value : value };
}

const QUADRANT = /^([NS])\s*(.+?)\s*([EW])$/i;
const points: Readonly<Record<string, number>> = {
  n: 0,
  ne: 45,
  e: 90,
  se: 135,
  s: 180,
  sw: 225,
  w: 270,
  nw: 315,
};

/**
 * A bearing in degrees clockwise from north: a number, a quadrant bearing as surveyors write it (N45°E, S 30 W), or a
 * point of the compass (NE).
 * @returns degrees
 */
export function readBearing(text: string): Reading<number> {
  const trimmed = text.trim();
  const point = points[trimmed.toLowerCase()];
  if (point !== undefined) return { value: point };
  const [, pole, angle, side] = QUADRANT.exec(trimmed) ?? [];
  if (pole === undefined) return readDegrees(trimmed);
  const read = readDegrees(angle!);
  if ('trouble' in read) return read;
  if (read.value < 0 || read.value > 90)
    return { trouble: `“${trimmed}” turns by more than 90° from ${pole.toUpperCase() === 'N' ? 'north' : 'south'}.` };
  const isEast = side!.toUpperCase() === 'E';
  if (pole.toUpperCase() === 'N') return { value: isEast || read.value === 0 ? read.value : 360 - read.value };
  return { value: isEast ? 180 - read.value : 180 + read.value };
}

const MOST_DENOMINATOR = 1e9;

/** The N of a scale 1:N: `1:50`, `1 / 2.5`, `20:1`, `1 to 1,250`, or just `50` for 1:50. */
export function readScale(text: string): Reading<number> {
  const parts = text.trim().split(/\s*(?::|\/|\bto\b)\s*/i);
  const refused: Reading<never> = { trouble: `“${text.trim()}” is no scale: write it as 1:200 or 20:1.` };
  if (parts.length > 2) return refused;
  const read = parts.map((part) => readNumber(part, true));
  const values = read.map((one) => ('value' in one ? one.value : Number.NaN));
  const denominator = values.length === 1 ? values[0]! : values[1]! / values[0]!;
  return denominator >= 1 / MOST_DENOMINATOR && denominator <= MOST_DENOMINATOR ? { value: denominator } : refused;
}
