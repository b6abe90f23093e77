import { inUnit, type DrawingUnit } from '@gull-pane/core/drawing/units';

/**
 * A decimal number with its point moved, without any rounding: what `String(value)` tells of a double tells the same
 * double after being moved there and back.
 * @param text a decimal number, with an exponent or not
 * @param places to the right where positive: times ten to that power
 * @throws RangeError if the text is no number
 */
export function shiftPoint(text: string, places: number): string {
  const match = /^\s*([+-]?)(\d*)\.?(\d*)(?:[eE]([+-]?\d+))?\s*$/.exec(text);
  if (!match || (match[2] === '' && match[3] === '')) throw new RangeError(`“${text}” is no number`);
  const [, sign = '', whole = '', part = '', exponent = '0'] = match;
  const digits = whole + part;
  const point = whole.length + Number(exponent) + places;
  const isNegative = sign === '-' ? '-' : '';
  if (point < -30 || point > 60) return `${isNegative}${digits === '' ? '0' : digits}e${point - digits.length}`;
  const padded = point <= 0 ? '0'.repeat(1 - point) + digits : digits.padEnd(point, '0');
  const at = Math.max(point, 1);
  const front = padded.slice(0, at).replace(/^0+(?=\d)/, '');
  const back = padded.slice(at).replace(/0+$/, '');
  return `${isNegative}${front}${back === '' ? '' : `.${back}`}`;
}

/** From millimetres to metres: the point is moved so far. */
const MM_TO_M = -3;

/** Lengths of a drawing as metres in text, and back. What has no unit stays as it is. */
export interface Lengths {
  readonly write: (value: number) => string;
  readonly read: (text: string) => number;
}

/** Writes lengths of a drawing as metres in decimal digits and reads them back to the same doubles. */
export const lengthsOf = (unit: DrawingUnit): Lengths => {
  // inches and feet have no point to move: they are rounded to the nearest double
  if (unit === 'in' || unit === 'ft')
    return {
      write: (value) => shiftPoint(String(inUnit(value, unit, 'm')), 0),
      read: (text) => inUnit(Number(shiftPoint(text, 0)), 'm', unit),
    };
  const places = unit === 'mm' ? MM_TO_M : 0;
  return {
    write: (value) => shiftPoint(String(value), places),
    read: (text) => Number(shiftPoint(text, -places)),
  };
};
