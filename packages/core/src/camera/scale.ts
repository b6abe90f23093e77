import type { Camera } from './camera.ts';
import { clampScale, type ScaleLimits } from './limits.ts';

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

/** The scales of ISO 5455:1979, as the N of 1:N, largest first; enlargements are below 1. */
export const standardScales: readonly number[] = [
  1 / 50,
  1 / 20,
  1 / 10,
  1 / 5,
  1 / 2,
  1,
  2,
  5,
  10,
  20,
  50,
  100,
  200,
  500,
  1000,
  2000,
  5000,
  10_000,
];

/**
 * Millimetres of a CSS px on a screen of this size.
 * @param diagonalInch of the visible area
 */
export function mmPerPxOfScreen(diagonalInch: number, widthPx: number, heightPx: number): number {
  return (diagonalInch * 25.4) / Math.hypot(widthPx, heightPx);
}

/** The camera at an exact scale about the middle of the pane. */
export function atScale(camera: Camera, denominator: number, limits: ScaleLimits, mmPerPx = MM_PER_CSS_PX): Camera {
  return { ...camera, unitsPerPx: clampScale(unitsPerPxAtScale(denominator, mmPerPx), limits) };
}
