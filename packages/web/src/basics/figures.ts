/** Numbers as they are written on screens. */
import { formatScale } from '@gull-pane/core/camera/scale';
import { formatLength } from '@gull-pane/core/camera/scale-bar';
import {
  figureText as plainFigure,
  figuresAsText as plainFigures,
  type Figure,
  type FigureStyle,
} from '@gull-pane/core/measure/figures';
import { shownDecimals } from './decimals';

/** A scale as it is written on drawings: `1:500`, `20:1`. */
export const scaleText = (denominator: number): string => shownDecimals(formatScale(denominator));

/** A length in the unit that fits, as beside a scale bar. */
export const lengthText = (...length: Parameters<typeof formatLength>): string =>
  shownDecimals(formatLength(...length));

/** 63595 → “63 595”: groups of three by a narrow space (ISO 80000-1). */
export const grouped = (value: number): string => value.toLocaleString('en').replaceAll(',', '\u202f');

/** A file size in the unit that fits. */
export function bytesText(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  const units = ['kB', 'MB', 'GB'];
  let value = bytes;
  let unit = -1;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000;
    unit++;
  }
  return shownDecimals(`${value >= 100 ? Math.round(value) : value.toFixed(1)} ${units[unit]!}`);
}

/** A day and time in the reader's own language, order and zone. */
export const whenText = (iso: string): string =>
  new Date(iso).toLocaleString(undefined, {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  });

/**
 * A coordinate with just the decimals that a px can tell apart, digits grouped.
 * @param unitsPerPx drawing units per CSS px
 */
export function coordinateText(value: number, unitsPerPx: number): string {
  const decimals = Math.min(Math.max(Math.ceil(-Math.log10(unitsPerPx)), 0), 6);
  const [whole, rest] = Math.abs(value).toFixed(decimals).split('.') as [string, string | undefined];
  const isZero = Number(whole) === 0 && Number(rest ?? 0) === 0;
  const sign = value < 0 && !isZero ? '−' : '';
  return shownDecimals(`${sign}${whole.replace(/\B(?=(\d{3})+$)/g, '\u202f')}${rest === undefined ? '' : `.${rest}`}`);
}

/** A length with all digits that mean something to a drafter: a millionth of the unit, trailing zeros left out. */
export function exactText(value: number): string {
  const [whole, rest = ''] = Math.abs(value).toFixed(6).split('.') as [string, string?];
  const decimals = rest.replace(/0+$/, '');
  const isZero = Number(whole) === 0 && decimals === '';
  return shownDecimals(
    `${value < 0 && !isZero ? '−' : ''}${whole.replace(/\B(?=(\d{3})+$)/g, '\u202f')}${decimals === '' ? '' : `.${decimals}`}`,
  );
}

/** A figure as it is shown. */
export const figureText = (figure: Figure, style: FigureStyle): string => shownDecimals(plainFigure(figure, style));

/** A measurement as text to be pasted: a line a figure. */
export const figuresAsText = (figures: readonly Figure[], style: FigureStyle): string =>
  shownDecimals(plainFigures(figures, style));
