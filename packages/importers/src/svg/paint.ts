import { colord, extend } from 'colord';
import namesPlugin from 'colord/plugins/names';
import type { Colour, FillRule, TextAnchor } from '@gull-pane/core/drawing/model';
import { NumberScanner } from './number-scanner.ts';
import { userLength } from './length.ts';

extend([namesPlugin]);

/** The properties that decide how an element is painted, after inheritance. Lengths in user units. */
export interface Paint {
  readonly fill: Colour | null;
  readonly stroke: Colour | null;
  readonly colour: Colour;
  readonly fillOpacity: number;
  readonly strokeOpacity: number;
  /** Product of the opacities of the element and its groups. */
  readonly opacity: number;
  readonly strokeWidth: number;
  readonly dashes: readonly number[];
  readonly fillRule: FillRule;
  readonly fontSize: number;
  readonly isBold: boolean;
  readonly textAnchor: TextAnchor;
  readonly isVisible: boolean;
  /** False for the element and all within it once `display` is none. */
  readonly isDisplayed: boolean;
}

const BLACK: Colour = { r: 0, g: 0, b: 0, a: 255 };

/** The initial values of SVG 2, 13 "Painting". */
export const initialPaint: Paint = {
  fill: BLACK,
  stroke: null,
  colour: BLACK,
  fillOpacity: 1,
  strokeOpacity: 1,
  opacity: 1,
  strokeWidth: 1,
  dashes: [],
  fillRule: 'nonzero',
  fontSize: 16,
  isBold: false,
  textAnchor: 'start',
  isVisible: true,
  isDisplayed: true,
};

type Reader = (value: string, parent: Paint) => Partial<Paint>;

/** Each property once, in the order in which they depend on one another. */
const readers: Readonly<Record<string, Reader>> = {
  color: (value, parent) => ({ colour: parseColour(value, parent.colour) ?? parent.colour }),
  'font-size': (value, parent) => ({
    fontSize: userLength(value, { fontSize: parent.fontSize, percentOf: parent.fontSize }, parent.fontSize),
  }),
  fill: (value, parent) => ({ fill: parsePaint(value, parent.colour, parent.fill) }),
  stroke: (value, parent) => ({ stroke: parsePaint(value, parent.colour, parent.stroke) }),
  'fill-opacity': (value, parent) => ({ fillOpacity: share(value, parent.fillOpacity) }),
  'stroke-opacity': (value, parent) => ({ strokeOpacity: share(value, parent.strokeOpacity) }),
  'stroke-width': (value, parent) => ({
    strokeWidth: Math.max(userLength(value, { fontSize: parent.fontSize, percentOf: 100 }, parent.strokeWidth), 0),
  }),
  'stroke-dasharray': (value) => ({ dashes: parseDashes(value) }),
  'fill-rule': (value) => ({ fillRule: value === 'evenodd' ? 'evenodd' : 'nonzero' }),
  'font-weight': (value) => ({ isBold: value === 'bold' || value === 'bolder' || Number(value) >= 600 }),
  'text-anchor': (value) => ({ textAnchor: value === 'middle' || value === 'end' ? value : 'start' }),
  visibility: (value) => ({ isVisible: value === 'visible' }),
};

const propertyNames = Object.keys(readers);

/** What an element's own attributes and `style` attribute make of its parent's paint. */
export function derivePaint(parent: Paint, attributes: Readonly<Record<string, string>>): Paint {
  const declared = attributes.style === undefined ? undefined : parseDeclarations(attributes.style);
  const valueOf = (name: string): string | undefined => declared?.[name] ?? attributes[name];
  let paint = parent;
  for (const name of propertyNames) {
    const value = valueOf(name)?.trim();
    if (value === undefined || value === 'inherit') continue;
    // `em` and currentColor refer to what this element has already been given
    paint = { ...paint, ...readers[name]!(value, paint) };
  }
  const opacity = valueOf('opacity');
  if (opacity !== undefined) paint = { ...paint, opacity: parent.opacity * share(opacity, 1) };
  if (valueOf('display')?.trim() === 'none') paint = { ...paint, isDisplayed: false };
  return paint;
}

function parseDeclarations(style: string): Record<string, string> {
  const declared: Record<string, string> = {};
  for (const part of style.split(';')) {
    const colon = part.indexOf(':');
    if (colon < 0) continue;
    declared[part.slice(0, colon).trim()] = part
      .slice(colon + 1)
      .replace(/!important\s*$/, '')
      .trim();
  }
  return declared;
}

const colourCache = new Map<string, Colour | null>();
const MAX_CACHED_COLOURS = 4096;

/** A CSS colour; `none` and what isn't understood are null. */
export function parseColour(text: string, current: Colour): Colour | null {
  if (text === 'currentColor' || text === 'currentcolor') return current;
  const cached = colourCache.get(text);
  if (cached !== undefined) return cached;
  const parsed = colord(text);
  const { r, g, b, a } = parsed.toRgb();
  const colour = parsed.isValid() ? { r, g, b, a: Math.round(a * 255) } : null;
  if (colourCache.size < MAX_CACHED_COLOURS) colourCache.set(text, colour);
  return colour;
}

/** A paint: a colour, `none`, or a reference with its fallback. */
function parsePaint(text: string, current: Colour, inherited: Colour | null): Colour | null {
  if (text === 'none' || text === 'transparent') return null;
  if (text.startsWith('url(')) {
    const fallback = text.slice(text.indexOf(')') + 1).trim();
    return fallback === '' || fallback === 'none' ? null : parseColour(fallback, current);
  }
  return parseColour(text, current) ?? inherited;
}

function parseDashes(text: string): readonly number[] {
  const lengths = new NumberScanner(text).all();
  const isUsable = lengths.length > 0 && lengths.every((length) => length >= 0) && lengths.some((length) => length > 0);
  if (!isUsable) return [];
  return lengths.length % 2 === 1 ? [...lengths, ...lengths] : lengths;
}

function share(text: string, fallback: number): number {
  const value = text.trim().endsWith('%') ? Number(text.trim().slice(0, -1)) / 100 : Number(text);
  return Number.isFinite(value) ? Math.min(Math.max(value, 0), 1) : fallback;
}
