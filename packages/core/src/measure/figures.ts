import { inUnit, type DrawingUnit, type LengthUnit } from '../drawing/units.ts';

/** What a number counts: its unit is a power of the length's, or degrees. */
export type Quantity = 'length' | 'area' | 'volume' | 'angle' | 'bearing' | 'plain';

/** One number of a measurement. Lengths in drawing units, angles in radians. */
export interface Figure {
  readonly name: string;
  readonly quantity: Quantity;
  readonly value: number;
}

/** How figures are written. */
export interface FigureStyle {
  /** Of the drawing. */
  readonly unit: DrawingUnit;
  /** That they are told in; null for the drawing's own. */
  readonly shownIn: LengthUnit | null;
  /** Decimals; null for all that are meant, trailing zeros left out. */
  readonly decimals: number | null;
}

const powers: Readonly<Partial<Record<Quantity, number>>> = { length: 1, area: 2, volume: 3 };
const signs = ['', '', '²', '³'];
/** All digits that mean something to a drafter: a millionth of the unit, of a degree. */
const MOST_DECIMALS = 6;

/** A figure as it is written: `63 595.25 mm`, `12.5 m²`, `30.25°`. */
export function figureText({ quantity, value }: Figure, { unit, shownIn, decimals }: FigureStyle): string {
  if (quantity === 'angle' || quantity === 'bearing') {
    const degrees = (value * 180) / Math.PI;
    return `${numberText(quantity === 'bearing' ? ((degrees % 360) + 360) % 360 : degrees, decimals)}°`;
  }
  const power = powers[quantity] ?? 0;
  const isKnown = unit !== 'none';
  const shown = isKnown && shownIn !== null && power > 0 ? inUnit(value, unit, shownIn, power) : value;
  const suffix = isKnown && power > 0 ? `\u00a0${shownIn ?? unit}${signs[power]!}` : '';
  return `${numberText(shown, decimals)}${suffix}`;
}

/** Digits in groups of three by a narrow space (ISO 80000-1). */
export function numberText(value: number, decimals: number | null): string {
  const [whole, rest = ''] = Math.abs(value)
    .toFixed(decimals ?? MOST_DECIMALS)
    .split('.') as [string, string?];
  const kept = decimals === null ? rest.replace(/0+$/, '') : rest;
  const isZero = Number(whole) === 0 && Number(kept) === 0;
  return `${value < 0 && !isZero ? '−' : ''}${whole.replace(/\B(?=(\d{3})+$)/g, '\u202f')}${kept === '' ? '' : `.${kept}`}`;
}

/** A measurement as text to be pasted: a line a figure, numbers plain. */
export const figuresAsText = (figures: readonly Figure[], style: FigureStyle): string =>
  figures
    .map((figure) => `${figure.name}: ${figureText(figure, style).replaceAll('\u202f', '').replaceAll('\u00a0', ' ')}`)
    .join('\n')
    .replaceAll('−', '-');
