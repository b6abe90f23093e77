import { colord } from 'colord';
import type { PictureSource } from '@gull-pane/core/drawing/model';
import type { Affine } from '@gull-pane/core/geometry/affine';
import type { Box2 } from '@gull-pane/core/geometry/clip';

type Rgba = readonly [number, number, number, number];

/** Colours that run along a line or between two circles (ISO 32000-2, 8.7.4.5.3 and 8.7.4.5.4). */
export interface Shading {
  /** In its own coordinates. @returns red, green, blue, alpha, 0 … 255; null where it paints nothing */
  readonly at: (x: number, y: number) => Rgba | null;
  /** What it comes to where it can't be shown. */
  readonly mean: Rgba;
}

interface Stop {
  readonly t: number;
  readonly colour: Rgba;
}

/**
 * @param told as the parsing package hands it on: kind, type, box, stops, both ends, both radii
 * @returns null if it is of another kind
 */
export function shadingOf(told: unknown): Shading | null {
  if (!Array.isArray(told) || told[0] !== 'RadialAxial') return null;
  const [, type, bbox, list, from, to, r0, r1] = told as unknown as readonly [
    string,
    string,
    readonly number[] | null,
    readonly (readonly [number, string])[],
    readonly [number, number],
    readonly [number, number],
    number | null,
    number | null,
  ];
  const stops = list.map(([t, colour]): Stop => ({ t, colour: rgbaOf(colour) }));
  if (stops.length === 0) return null;
  const share = type === 'axial' ? alongLine(from, to) : betweenCircles(from, r0 ?? 0, to, r1 ?? 0);
  return {
    at: (x, y) => {
      if (bbox && !(x >= bbox[0]! && x <= bbox[2]! && y >= bbox[1]! && y <= bbox[3]!)) return null;
      const t = share(x, y);
      return t === null ? null : colourAt(stops, t);
    },
    mean: colourAt(stops, 0.5),
  };
}

function rgbaOf(colour: string): Rgba {
  if (colour === 'transparent') return [0, 0, 0, 0];
  const { r, g, b } = colord(colour).toRgb();
  return [r, g, b, 255];
}

function colourAt(stops: readonly Stop[], t: number): Rgba {
  const after = stops.findIndex((stop) => stop.t > t);
  if (after === 0) return stops[0]!.colour;
  if (after < 0) return stops.at(-1)!.colour;
  const [a, b] = [stops[after - 1]!, stops[after]!];
  const share = (t - a.t) / (b.t - a.t);
  return [0, 1, 2, 3].map((k) => Math.round(a.colour[k]! + (b.colour[k]! - a.colour[k]!) * share)) as [...Rgba];
}

type Share = (x: number, y: number) => number | null;

function alongLine([x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): Share {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const length2 = dx * dx + dy * dy;
  return (x, y) => (length2 > 0 ? ((x - x0) * dx + (y - y0) * dy) / length2 : null);
}

/** Of all circles through a place the one farthest along whose radius isn't below 0. */
function betweenCircles(
  [x0, y0]: readonly [number, number],
  r0: number,
  [x1, y1]: readonly [number, number],
  r1: number,
): Share {
  const [dx, dy, dr] = [x1 - x0, y1 - y0, r1 - r0];
  const a = dx * dx + dy * dy - dr * dr;
  return (x, y) => {
    const [px, py] = [x - x0, y - y0];
    const b = px * dx + py * dy + r0 * dr;
    const c = px * px + py * py - r0 * r0;
    const roots = a === 0 ? (b === 0 ? [] : [c / (2 * b)]) : rootsOf(a, b, c);
    return roots.find((t) => r0 + t * dr >= 0) ?? null;
  };
}

/** Of a·t² − 2·b·t + c = 0, the larger first. */
function rootsOf(a: number, b: number, c: number): number[] {
  const square = b * b - a * c;
  if (square < 0) return [];
  const root = Math.sqrt(square);
  return [(b + root) / a, (b - root) / a].sort((s, t) => t - s);
}

/** Px of the longer side of a picture of a shading. */
const MOST_PX = 256;
const LEAST_PX = 16;
/** As fine as paper needs it, px a millimetre. */
const PX_PER_MM = 4;

/**
 * A shading as a picture.
 * @param toDrawing from its own coordinates to millimetres
 * @param region what is painted at most, millimetres
 * @param isPainted whether a place is painted, millimetres
 * @returns null if nothing is
 */
export function pictureOfShading(
  shading: Shading,
  toDrawing: Affine,
  region: Box2,
  isPainted: (x: number, y: number) => boolean,
): { readonly place: Affine; readonly source: PictureSource } | null {
  const [width, height] = [region.maxX - region.minX, region.maxY - region.minY];
  const { a, b, c, d, e, f } = toDrawing;
  const det = a * d - b * c;
  if (!(width > 0 && height > 0 && Math.abs(det) > 0)) return null;
  const longer = Math.min(Math.max(Math.ceil(PX_PER_MM * Math.max(width, height)), LEAST_PX), MOST_PX);
  const [widthPx, heightPx] = [width, height].map((side) =>
    Math.max(Math.ceil((longer * side) / Math.max(width, height)), 1),
  ) as [number, number];
  const bytes = new Uint8Array(4 * widthPx * heightPx);
  for (let row = 0; row < heightPx; row++)
    for (let column = 0; column < widthPx; column++) {
      const x = region.minX + ((column + 0.5) * width) / widthPx;
      const y = region.maxY - ((row + 0.5) * height) / heightPx;
      if (!isPainted(x, y)) continue;
      const own = shading.at((d * (x - e) - c * (y - f)) / det, (a * (y - f) - b * (x - e)) / det);
      if (own) bytes.set(own, 4 * (row * widthPx + column));
    }
  return {
    place: { a: width, b: 0, c: 0, d: -height, e: region.minX, f: region.maxY },
    source: { kind: 'pixels', bytes, widthPx, heightPx, channels: 4 },
  };
}
