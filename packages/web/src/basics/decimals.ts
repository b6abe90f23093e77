/** How decimals are written and read: with a point or a comma, as the person's language has it or as was chosen. */
import type { Reading } from '@gull-pane/core/typed/typed-number';

export const decimalSigns = ['language', 'point', 'comma'] as const;
export type DecimalSign = (typeof decimalSigns)[number];

let isComma = false;

/** Of the person, as the browser lists them. */
const ownLanguages = (): readonly string[] => {
  const { navigator: own } = globalThis as { readonly navigator?: Partial<Navigator> };
  return own?.languages ?? ['en'];
};

/** Whether a language writes decimals with a comma. @param languages as the browser lists them, the first one counts */
export const writesComma = (languages: readonly string[]): boolean =>
  new Intl.NumberFormat([...languages])
    .formatToParts(1.5)
    .some(({ type, value }) => type === 'decimal' && value === ',');

/** Chooses how decimals are written from now on. */
export function chooseDecimals(sign: DecimalSign, languages = ownLanguages()): void {
  isComma = sign === 'comma' || (sign === 'language' && writesComma(languages));
}

/** A text with numbers, written with decimal points, as it is shown. */
export const shownDecimals = (text: string): string => (isComma ? text.replace(/(\d)\.(\d)/g, '$1,$2') : text);

/** Between numbers of a list: a comma would be taken for a decimal one. */
export const listSign = (): string => (isComma ? ';' : ',');

const swapped = (text: string): string => text.replace(/(?<=\d)[.,](?=\d)/g, (sign) => (sign === '.' ? ',' : '.'));

/** Reads what was typed where decimals are written with a comma; points group digits there. */
export function readDecimals<T>(text: string, read: (text: string) => Reading<T>): Reading<T> {
  if (!isComma) return read(text);
  const reading = read(swapped(text));
  return 'trouble' in reading ? { trouble: swapped(reading.trouble) } : reading;
}
