import type { Colour } from './model.ts';

/** A colour that hides what lies below it. @param r red; all channels 0 to 255 */
export const opaque = (r: number, g: number, b: number): Colour => ({ r, g, b, a: 255 });

/** `#rrggbb`, the alpha left out. */
export function colourToHex(colour: Colour): string {
  return `#${[colour.r, colour.g, colour.b].map((channel) => channel.toString(16).padStart(2, '0')).join('')}`;
}

/** @returns the opaque colour of `#rrggbb`; black for anything else */
export function colourFromHex(hex: string): Colour {
  const [, r = '0', g = '0', b = '0'] = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex) ?? [];
  return opaque(Number.parseInt(r, 16), Number.parseInt(g, 16), Number.parseInt(b, 16));
}

/** Relative luminance 0 … 1 (WCAG 2.2, "relative luminance"). */
export function luminance({ r, g, b }: Colour): number {
  const linear = (channel: number): number => {
    const share = channel / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
}

/** Contrast ratio 1 … 21 (WCAG 2.2, "contrast ratio"). */
export function contrast(a: Colour, b: Colour): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

/** Lines fainter than this against their ground can't be told from it. */
const LEAST_CONTRAST = 2;
const DARK_GROUND = 0.18;

/** The same hue with its lightness (HSL, CSS Color 4, chapter 7) turned over: what is dark on paper is light at night. */
function mirrored({ r, g, b, a }: Colour): Colour {
  const shift = 255 - Math.max(r, g, b) - Math.min(r, g, b);
  return { r: r + shift, g: g + shift, b: b + shift, a };
}

/** A drawing's fill as it is shown on a ground: pale areas stay pale on paper and are deep at night. */
export const fillOnGround = (colour: Colour, ground: Colour): Colour =>
  luminance(ground) < DARK_GROUND ? mirrored(colour) : colour;

/**
 * The colour of a line or text as it is shown on a ground: at night the lightness is turned over; what still can't be
 * told from its ground is moved towards white or black just as far as it must.
 */
export function inkOnGround(colour: Colour, ground: Colour): Colour {
  const base = fillOnGround(colour, ground);
  if (contrast(base, ground) >= LEAST_CONTRAST) return base;
  const end = luminance(ground) < DARK_GROUND ? 255 : 0;
  const mixed = (share: number): Colour => ({
    r: Math.round(base.r + (end - base.r) * share),
    g: Math.round(base.g + (end - base.g) * share),
    b: Math.round(base.b + (end - base.b) * share),
    a: base.a,
  });
  let [low, high] = [0, 1];
  for (let i = 0; i < 8; i++) {
    const middle = (low + high) / 2;
    if (contrast(mixed(middle), ground) >= LEAST_CONTRAST) high = middle;
    else low = middle;
  }
  return mixed(high);
}
