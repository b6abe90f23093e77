import { inShownUnit, type DrawingUnit, type ShownUnit } from '../drawing/units.ts';

/** What a number counts: its unit is a power of the length's, or degrees. */
export type Quantity = 'length' | 'area' | 'volume' | 'angle' | 'bearing' | 'plain';

/** One number of a measurement. Lengths in drawing units, angles in radians. */
export interface Figure {
  readonly name: string;
  readonly quantity: Quantity;
  readonly value: number;
}

/** Degrees; degrees, minutes and seconds; gon (400 to the turn, ISO 80000-3). */
export const angleUnits = ['deg', 'dms', 'gon'] as const;
export type AngleUnit = (typeof angleUnits)[number];

/** How figures are written. */
export interface FigureStyle {
  /** Of the drawing. */
  readonly unit: DrawingUnit;
  /** That they are told in; null for the drawing's own. */
  readonly shownIn: ShownUnit | null;
  /** That angles and bearings are told in. */
  readonly angles: AngleUnit;
  /** Decimals; null for all that are meant, trailing zeros left out. */
  readonly decimals: number | null;
}

const powers: Readonly<Partial<Record<Quantity, number>>> = { length: 1, area: 2, volume: 3 };
const signs = ['', '', '²', '³'];
/** All digits that mean something to a drafter: a millionth of the unit, of a degree. */
const MOST_DECIMALS = 6;

/** A figure as it is written: `63 595.25 mm`, `12.5 m²`, `30.25°`. */
export function figureText({ quantity, value }: Figure, { unit, shownIn, decimals, angles }: FigureStyle): string {
  if (quantity === 'angle' || quantity === 'bearing') {
    const turns = value / (2 * Math.PI);
    return angleText(quantity === 'bearing' ? turns - Math.floor(turns) : turns, angles, decimals);
  }
  const power = powers[quantity] ?? 0;
  if (unit === 'none' || power === 0) return numberText(value, decimals);
  if (shownIn === 'ft-in' && power === 1) return feetText(inShownUnit(value, unit, 'in'), decimals);
  const told = shownIn === 'ft-in' ? 'ft' : shownIn;
  const shown = told === null ? value : inShownUnit(value, unit, told, power);
  return `${numberText(shown, decimals)}\u00a0${told ?? unit}${signs[power]!}`;
}

/** @param turns whole turns, so that each unit has its nearest double */
function angleText(turns: number, angles: AngleUnit, decimals: number | null): string {
  if (angles === 'gon') return `${numberText(turns * 400, decimals)}\u00a0gon`;
  if (angles === 'deg') return `${numberText(turns * 360, decimals)}°`;
  // rounded once, so that no 60″ is left over
  const perSecond = 10 ** Math.min(decimals ?? MOST_DMS_DECIMALS, MOST_DMS_DECIMALS);
  const parts = Math.round(Math.abs(turns) * 360 * 3600 * perSecond);
  const seconds = (parts / perSecond) % 60;
  const minutes = Math.floor(parts / perSecond / 60);
  const told = numberText(seconds, decimals === null ? null : Math.min(decimals, MOST_DMS_DECIMALS));
  const two = seconds < 10 ? `0${told}` : told;
  const sign = turns < 0 && parts > 0 ? '−' : '';
  return `${sign}${Math.floor(minutes / 60)}° ${String(minutes % 60).padStart(2, '0')}′ ${two}″`;
}
/** A millionth of a degree is about four thousandths of a second. */
const MOST_DMS_DECIMALS = 3;

/** Feet and inches: `12′ 3 1/2″`. @param decimals so often an inch is halved, 1/64 for null */
function feetText(inches: number, decimals: number | null): string {
  const parts = 2 ** Math.min(decimals ?? MOST_HALVINGS, MOST_HALVINGS);
  const whole = Math.round(Math.abs(inches) * parts);
  const feet = Math.floor(whole / (12 * parts));
  const rest = whole - feet * 12 * parts;
  let [over, under] = [rest % parts, parts];
  while (over > 0 && over % 2 === 0) [over, under] = [over / 2, under / 2];
  const fraction = over === 0 ? '' : ` ${over}/${under}`;
  const sign = inches < 0 && whole > 0 ? '−' : '';
  return `${sign}${feet > 0 ? `${numberText(feet, 0)}′ ` : ''}${Math.floor(rest / parts)}${fraction}″`;
}
const MOST_HALVINGS = 6;

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
