import { colord, extend } from 'colord';
import namesPlugin from 'colord/plugins/names';
import type { Colour, FillRule, TextAnchor } from '@gull-pane/core/drawing/model';
import { NumberScanner } from './number-scanner.ts';
import { userLength } from './length.ts';

extend([namesPlugin]);

/** The properties that decide how an element is painted, after inheritance. Lengths in user units. */
export interface Paint {
  readonly fill: Colour | null;
  /** Id of the pattern that the fill refers to. */
  readonly fillPattern: string | null;
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
  /** Ids of the markers at the path's beginning, at its inner vertices, at its end. */
  readonly markers: readonly [string | null, string | null, string | null];
  readonly isVisible: boolean;
  /** False for the element and all within it once `display` is none. */
  readonly isDisplayed: boolean;
}

const BLACK: Colour = { r: 0, g: 0, b: 0, a: 255 };

/** The initial values of SVG 2, 13 "Painting". */
export const initialPaint: Paint = {
  fill: BLACK,
  fillPattern: null,
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
  markers: [null, null, null],
  isVisible: true,
  isDisplayed: true,
};

/** Gives what a paint refers to: its mean colour, or that it is a pattern; undefined if the file has no such paint. */
export type PaintServer = (id: string) => Colour | null | 'pattern' | undefined;

type Reader = (value: string, parent: Paint, server: PaintServer) => Partial<Paint>;

/** Each property once, in the order in which they depend on one another. */
const readers: Readonly<Record<string, Reader>> = {
  color: (value, parent) => ({ colour: parseColour(value, parent.colour) ?? parent.colour }),
  'font-size': (value, parent) => ({
    fontSize: userLength(value, { fontSize: parent.fontSize, percentOf: parent.fontSize }, parent.fontSize),
  }),
  fill: (value, parent, server) => {
    const { colour, pattern } = parsePaint(value, parent.colour, parent.fill, server);
    return { fill: colour, fillPattern: pattern };
  },
  stroke: (value, parent, server) => ({ stroke: parsePaint(value, parent.colour, parent.stroke, server).colour }),
  'fill-opacity': (value, parent) => ({ fillOpacity: share(value, parent.fillOpacity) }),
  'stroke-opacity': (value, parent) => ({ strokeOpacity: share(value, parent.strokeOpacity) }),
  'stroke-width': (value, parent) => ({
    strokeWidth: Math.max(userLength(value, { fontSize: parent.fontSize, percentOf: 100 }, parent.strokeWidth), 0),
  }),
  'stroke-dasharray': (value) => ({ dashes: parseDashes(value) }),
  'fill-rule': (value) => ({ fillRule: value === 'evenodd' ? 'evenodd' : 'nonzero' }),
  'font-weight': (value) => ({ isBold: value === 'bold' || value === 'bolder' || Number(value) >= 600 }),
  'text-anchor': (value) => ({ textAnchor: value === 'middle' || value === 'end' ? value : 'start' }),
  marker: (value) => ({ markers: [reference(value), reference(value), reference(value)] }),
  'marker-start': (value, { markers }) => ({ markers: [reference(value), markers[1], markers[2]] }),
  'marker-mid': (value, { markers }) => ({ markers: [markers[0], reference(value), markers[2]] }),
  'marker-end': (value, { markers }) => ({ markers: [markers[0], markers[1], reference(value)] }),
  visibility: (value) => ({ isVisible: value === 'visible' }),
};

const propertyNames = Object.keys(readers);
const ofPaint: ReadonlySet<string> = new Set([...propertyNames, 'opacity', 'display']);

/** Where the properties of an element come from, besides itself. */
export interface PaintContext {
  readonly server: PaintServer;
  /** What style rules say of the element, weaker first. */
  readonly rules: readonly { readonly property: string; readonly value: string; readonly isImportant: boolean }[];
}

const noContext: PaintContext = { server: () => undefined, rules: [] };

/** The value of each property that an element declares: attributes, then rules, then `style`, then what is important. */
export function declaredValues(
  attributes: Readonly<Record<string, string>>,
  { rules }: Pick<PaintContext, 'rules'> = noContext,
): Readonly<Record<string, string>> {
  if (rules.length === 0 && attributes.style === undefined) return attributes;
  const values: Record<string, string> = { ...attributes };
  for (const { property, value, isImportant } of rules) if (!isImportant) values[property] = value;
  Object.assign(values, declarationsIn(attributes.style));
  for (const { property, value, isImportant } of rules) if (isImportant) values[property] = value;
  return values;
}

/** Most elements declare where they are, and nothing of how they look. */
function declaresAny(values: Readonly<Record<string, string>>): boolean {
  for (const name in values) if (ofPaint.has(name)) return true;
  return false;
}

/** What an element's declared values make of its parent's paint. */
export function derivePaint(
  parent: Paint,
  values: Readonly<Record<string, string>>,
  { server }: Pick<PaintContext, 'server'> = noContext,
): Paint {
  let paint = parent;
  if (!declaresAny(values)) return parent;
  for (const name of propertyNames) {
    const value = values[name]?.trim();
    if (value === undefined || value === 'inherit') continue;
    // `em` and currentColor refer to what this element has already been given
    paint = { ...paint, ...readers[name]!(value, paint, server) };
  }
  const { opacity, display } = values;
  if (opacity !== undefined) paint = { ...paint, opacity: parent.opacity * share(opacity, 1) };
  if (display?.trim() === 'none') paint = { ...paint, isDisplayed: false };
  return paint;
}

/** The declarations of a `style` attribute. */
export function declarationsIn(style: string | undefined): Record<string, string> {
  const declared: Record<string, string> = {};
  if (style === undefined) return declared;
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

/** The id in `url(#id)`; null for anything else. */
export const reference = (value: string): string | null =>
  /^url\(\s*["']?#([^"')]+)["']?\s*\)/.exec(value)?.[1] ?? null;

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
function parsePaint(
  text: string,
  current: Colour,
  inherited: Colour | null,
  server: PaintServer,
): { colour: Colour | null; pattern: string | null } {
  const plain = (colour: Colour | null): { colour: Colour | null; pattern: null } => ({ colour, pattern: null });
  if (text === 'none' || text === 'transparent') return plain(null);
  const id = reference(text);
  if (id === null) return plain(parseColour(text, current) ?? inherited);
  const served = server(id);
  if (served === 'pattern') return { colour: null, pattern: id };
  if (served !== undefined) return plain(served);
  const fallback = text.slice(text.indexOf(')') + 1).trim();
  return plain(fallback === '' || fallback === 'none' ? null : parseColour(fallback, current));
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
