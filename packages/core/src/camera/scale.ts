import type { Camera } from './camera.ts';

/** Millimetres of one CSS px on a screen of the standard density (CSS Values and Units 4: 1in = 96px). */
export const MM_PER_CSS_PX = 25.4 / 96;

/** The N of 1:N: how many millimetres of the drawing one millimetre of the screen stands for. */
export const scaleDenominator = (camera: Camera, mmPerPx = MM_PER_CSS_PX): number => camera.unitsPerPx / mmPerPx;

/** The inverse of {@link scaleDenominator}. */
export const unitsPerPxAtScale = (denominator: number, mmPerPx = MM_PER_CSS_PX): number => denominator * mmPerPx;

/** A scale as it is written on drawings: `1:500`, `1:2.5`, `20:1`; three digits that count. */
export function formatScale(denominator: number): string {
  const digits = (value: number): string =>
    value >= 100 ? Math.round(value).toLocaleString('en').replaceAll(',', ' ') : String(Number(value.toPrecision(3)));
  return denominator >= 1 ? `1:${digits(denominator)}` : `${digits(1 / denominator)}:1`;
}
