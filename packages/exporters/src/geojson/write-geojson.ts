import { colourToHex } from '@gull-pane/core/drawing/colour';
import { flattenPath, within } from '@gull-pane/core/drawing/flatten';
import { fromTransverseMercator } from '@gull-pane/core/geometry/transverse-mercator';
import { inUnit } from '@gull-pane/core/drawing/units';
import type { Path } from '@gull-pane/core/drawing/path';
import type { ExportedDrawing, ExportedObject } from '../exported.ts';
import { nestRings } from './nest-rings.ts';

/** Curves become chords that are so near to them, as a share of the drawing's longer side. */
const NEARNESS = 4e-7;

/**
 * A flat drawing as GeoJSON (RFC 7946), a feature an object, piece by piece. What came in as GeoJSON goes out as it was:
 * ids, properties, heights and all. Of what came in from degrees the rest is in degrees, too; any other drawing lies on a
 * plane and not on the globe: coordinates are metres east and north, which the member `plane` says.
 */
export function* writeGeoJson(drawing: ExportedDrawing): Generator<string> {
  const { box, unit, meridianDeg } = drawing;
  const size = Math.max(box.maxX - box.minX, box.maxY - box.minY, 1e-9);
  const perUnit = unit === 'none' ? 1 : inUnit(1, unit, 'm');
  const place = placeOn(meridianDeg, perUnit);
  const plane = meridianDeg === undefined ? `"plane":"${unit === 'none' ? 'units' : 'metres'}",` : '';
  yield `{"type":"FeatureCollection",${plane}"name":${JSON.stringify(drawing.name)},"features":[\n`;
  let isFirst = true;
  for (const object of drawing.objects()) {
    const feature = object.told ?? featureOf(object, drawing, { nearness: NEARNESS * size, perUnit, place });
    if (feature === null) continue;
    yield `${isFirst ? '' : ',\n'}${feature}`;
    isFirst = false;
  }
  yield '\n]}\n';
}

/** Where a place of the drawing lies in the file. */
type PlaceOf = (x: number, y: number) => [number, number];

/** @param perUnit metres in a drawing unit */
const placeOn =
  (meridianDeg: number | undefined, perUnit: number): PlaceOf =>
  (x, y) => {
    if (meridianDeg === undefined) return [x * perUnit, y * perUnit];
    const { lonDeg, latDeg } = fromTransverseMercator(x * perUnit, y * perUnit, meridianDeg);
    return [lonDeg, latDeg];
  };

interface Writing {
  /** So near chords are to curves, drawing units. */
  readonly nearness: number;
  readonly perUnit: number;
  readonly place: PlaceOf;
}

/** @returns null if nothing of it is a geometry */
function featureOf(
  object: ExportedObject,
  drawing: ExportedDrawing,
  { nearness, perUnit, place }: Writing,
): string | null {
  const { id, text } = object;
  const geometry = text
    ? { type: 'Point', coordinates: place(text.x, text.y) }
    : geometryOf(object.path!, object.fill !== null, nearness, place);
  if (!geometry) return null;
  return JSON.stringify({ type: 'Feature', id, properties: propertiesOf(object, drawing, perUnit), geometry });
}

function propertiesOf(
  { layer, line, fill, text }: ExportedObject,
  { layers }: ExportedDrawing,
  perUnit: number,
): object {
  const name = layers[layer]?.name ?? '';
  if (text) {
    const ink = line ?? fill;
    return {
      layer: name,
      text: text.text,
      textSize: text.size * perUnit,
      ...(text.angleRad === 0 ? {} : { angle: (text.angleRad * 180) / Math.PI }),
      ...(text.anchor === 'start' ? {} : { anchor: text.anchor }),
      ...(text.weight === 'bold' ? { weight: 'bold' } : {}),
      ...(ink ? { fill: colourToHex(ink.colour) } : {}),
    };
  }
  return {
    layer: name,
    ...(line ? { stroke: colourToHex(line.colour), 'stroke-width': line.width * perUnit } : {}),
    ...(fill ? { fill: colourToHex(fill.colour), 'fill-opacity': Number((fill.colour.a / 255).toFixed(4)) } : {}),
  };
}

function geometryOf(path: Path, isArea: boolean, tolerance: number, place: PlaceOf): object | null {
  const runs: { readonly points: number[]; isClosed: boolean }[] = [];
  flattenPath(
    path,
    {
      move: (x, y) => void runs.push({ points: [x, y], isClosed: false }),
      line: (x, y) => void runs.at(-1)?.points.push(x, y),
      close: () => {
        const last = runs.at(-1);
        if (last) last.isClosed = true;
      },
    },
    within(tolerance),
  );
  const pairs = (flat: readonly number[], isRing: boolean): number[][] => {
    const points: number[][] = [];
    for (let i = 0; i < flat.length; i += 2) points.push(place(flat[i]!, flat[i + 1]!));
    if (isRing) points.push([...points[0]!]);
    return points;
  };
  if (isArea) {
    const polygons = nestRings(runs.map(({ points }) => withoutEnd(points)));
    if (polygons.length === 0) return null;
    const coordinates = polygons.map((rings) => rings.map((ring) => pairs(ring, true)));
    return coordinates.length === 1
      ? { type: 'Polygon', coordinates: coordinates[0] }
      : { type: 'MultiPolygon', coordinates };
  }
  const lines = runs
    .filter(({ points }) => points.length >= 4)
    .map(({ points, isClosed }) => pairs(points, isClosed && !isAtStart(points)));
  if (lines.length === 0) return null;
  return lines.length === 1
    ? { type: 'LineString', coordinates: lines[0] }
    : { type: 'MultiLineString', coordinates: lines };
}

const isAtStart = (points: readonly number[]): boolean =>
  points.length > 4 && points[0] === points.at(-2) && points[1] === points.at(-1);
const withoutEnd = (points: readonly number[]): readonly number[] => (isAtStart(points) ? points.slice(0, -2) : points);
