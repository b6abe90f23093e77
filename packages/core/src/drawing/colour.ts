import type { Colour } from './model.ts';

export const opaque = (r: number, g: number, b: number): Colour => ({ r, g, b, a: 255 });

/** `#rrggbb`, the alpha left out. */
export function colourToHex(colour: Colour): string {
  return `#${[colour.r, colour.g, colour.b].map((channel) => channel.toString(16).padStart(2, '0')).join('')}`;
}
