/** Colours of glTF, which are linear light, and of screens, which are sRGB (IEC 61966-2-1). */
import type { Colour } from '@gull-pane/core/drawing/model';

/** A share of one: what is no number is none. */
export const clamp = (share: number): number => Math.min(Math.max(Number.isFinite(share) ? share : 0, 0), 1);

/** A channel of linear light, 0 … 1, in sRGB, 0 … 255 (IEC 61966-2-1). */
export function channel(light: number): number {
  const share = clamp(light);
  return Math.round(255 * (share <= 0.0031308 ? share * 12.92 : 1.055 * share ** (1 / 2.4) - 0.055));
}

/** A channel of sRGB, 0 … 1, as linear light. */
export const linear = (share: number): number => (share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4);

/** A colour of glTF in sRGB. @param isClear whether its alpha counts */
export const colourOf = ([r = 1, g = 1, b = 1, a = 1]: readonly number[], isClear: boolean): Colour => ({
  r: channel(r),
  g: channel(g),
  b: channel(b),
  a: isClear ? Math.round(255 * clamp(a)) : 255,
});
