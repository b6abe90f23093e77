/** Lengths as SVG writes them (CSS Values and Units 4, 6.2 "Absolute lengths"). */

const MM_PER_UNIT: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  q: 0.25,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
};
const MM_PER_PX = 25.4 / 96;
/** The size of `rem` where nothing sets it (CSS Fonts 4, medium). */
const ROOT_FONT_SIZE = 16;
const LENGTH = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*(mm|cm|q|in|pt|pc|px|rem|em|ex|%)?\s*$/i;

/** @returns millimetres where the length has a physical unit, null for numbers, px, em and % */
export function physicalMillimetres(text: string | undefined): number | null {
  const match = text === undefined ? null : LENGTH.exec(text);
  const factor = MM_PER_UNIT[match?.[2]?.toLowerCase() ?? ''];
  return match && factor !== undefined ? Number(match[1]) * factor : null;
}

/** What em and % refer to, user units. */
export interface LengthBase {
  readonly fontSize: number;
  readonly percentOf: number;
}

/** @returns the length in user units, `fallback` if it is absent or not a length */
export function userLength(text: string | undefined, base: LengthBase, fallback: number): number {
  if (text === undefined) return fallback;
  const plain = Number(text);
  if (!Number.isNaN(plain) && text !== '') return plain;
  const match = LENGTH.exec(text);
  if (!match) return fallback;
  const value = Number(match[1]);
  const unit = (match[2] ?? 'px').toLowerCase();
  if (unit === 'px') return value;
  if (unit === 'em') return value * base.fontSize;
  if (unit === 'ex') return (value * base.fontSize) / 2;
  if (unit === 'rem') return value * ROOT_FONT_SIZE;
  if (unit === '%') return (value / 100) * base.percentOf;
  return (value * MM_PER_UNIT[unit]!) / MM_PER_PX;
}
