import { colourToHex } from '@gull-pane/core/drawing/colour';
import { flattenPath, within } from '@gull-pane/core/drawing/flatten';
import { inUnit } from '@gull-pane/core/drawing/units';
import type { Path } from '@gull-pane/core/drawing/path';
import type { ExportedDrawing, ExportedObject } from '../exported.ts';
import { nestRings } from './nest-rings.ts';

/** Curves become chords that are so near to them, as a share of the drawing's longer side. */
const NEARNESS = 4e-7;

/**
 * A flat drawing as GeoJSON (RFC 7946), a feature an object, piece by piece. A drawing lies on a plane and not on the
 * globe: coordinates are metres east and north, which the member `plane` says.
 */
export function* writeGeoJson(drawing: ExportedDrawing): Generator<string> {
  const { box, unit } = drawing;
  const size = Math.max(box.maxX - box.minX, box.maxY - box.minY, 1e-9);
  const perUnit = unit === 'none' ? 1 : inUnit(1, unit, 'm');
  yield `{"type":"FeatureCollection","plane":"${unit === 'none' ? 'units' : 'metres'}","name":${JSON.stringify(drawing.name)},"features":[\n`;
  let isFirst = true;
  for (const object of drawing.objects()) {
    const geometry = object.text
      ? { type: 'Point', coordinates: [object.text.x * perUnit, object.text.y * perUnit] }
      : geometryOf(object.path!, object.fill !== null, NEARNESS * size, perUnit);
    if (!geometry) continue;
    const feature = { type: 'Feature', id: object.id, properties: propertiesOf(object, drawing, perUnit), geometry };
    yield `${isFirst ? '' : ',\n'}${JSON.stringify(feature)}`;
    isFirst = false;
  }
  yield '\n]}\n';
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

function geometryOf(path: Path, isArea: boolean, tolerance: number, perUnit: number): object | null {
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
    for (let i = 0; i < flat.length; i += 2) points.push([flat[i]! * perUnit, flat[i + 1]! * perUnit]);
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
