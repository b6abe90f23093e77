import type { Colour } from '@gull-pane/core/drawing/model';
import { elementsIn, type DefinedElement, type Definitions } from './definitions.ts';
import { declarationsIn, parseColour } from './paint.ts';

const BLACK: Colour = { r: 0, g: 0, b: 0, a: 255 };
/** References from gradient to gradient that are followed. */
const MAX_LINKS = 8;

/**
 * The mean colour of a gradient: its stops weighted by the stretch that each colour takes (SVG 2, 14.2). Stops may stand
 * in a gradient that it refers to.
 * @returns null if it has no stops: nothing is painted then
 */
export function meanColour(gradient: DefinedElement, definitions: Definitions): Colour | null {
  const stops = stopsOf(gradient, definitions, MAX_LINKS);
  const [first] = stops;
  if (!first) return null;
  const last = stops.at(-1)!;
  const sum = { r: 0, g: 0, b: 0, a: 0 };
  const add = (colour: Colour, share: number): void => {
    sum.r += colour.r * colour.a * share;
    sum.g += colour.g * colour.a * share;
    sum.b += colour.b * colour.a * share;
    sum.a += colour.a * share;
  };
  add(first.colour, first.offset);
  add(last.colour, 1 - last.offset);
  stops.forEach((stop, index) => {
    const next = stops[index + 1];
    if (!next) return;
    add(stop.colour, (next.offset - stop.offset) / 2);
    add(next.colour, (next.offset - stop.offset) / 2);
  });
  if (sum.a === 0) return null;
  const channel = (value: number): number => Math.round(value / sum.a);
  return { r: channel(sum.r), g: channel(sum.g), b: channel(sum.b), a: Math.round(sum.a) };
}

interface Stop {
  readonly offset: number;
  readonly colour: Colour;
}

function stopsOf(gradient: DefinedElement, definitions: Definitions, links: number): Stop[] {
  const elements = elementsIn(gradient).filter(({ name }) => name === 'stop');
  if (elements.length === 0) {
    const href = gradient.attributes.href ?? gradient.attributes['xlink:href'];
    const other = href?.startsWith('#') ? definitions.find(href.slice(1)) : undefined;
    return other && links > 0 ? stopsOf(other, definitions, links - 1) : [];
  }
  let reached = 0;
  return elements.map(({ attributes }) => {
    const declared = declarationsIn(attributes.style);
    const text = (declared.offset ?? attributes.offset ?? '0').trim();
    const offset = text.endsWith('%') ? Number(text.slice(0, -1)) / 100 : Number(text);
    // offsets never go back
    reached = Math.min(Math.max(Number.isFinite(offset) ? offset : 0, reached), 1);
    const colour = parseColour(declared['stop-color'] ?? attributes['stop-color'] ?? 'black', BLACK) ?? BLACK;
    const opacity = Number(declared['stop-opacity'] ?? attributes['stop-opacity'] ?? 1);
    return { offset: reached, colour: { ...colour, a: colour.a * (Number.isFinite(opacity) ? opacity : 1) } };
  });
}
