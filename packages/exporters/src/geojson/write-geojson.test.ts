import { expect, it } from 'vitest';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import { transverseMercator } from '@gull-pane/core/geometry/transverse-mercator';
import type { ExportedDrawing, ExportedObject } from '../exported.ts';
import { writeGeoJson } from './write-geojson.ts';

const line = { kind: 'line', layer: 0, colour: { r: 0, g: 0, b: 0, a: 255 }, width: 1, dashes: [] } as const;
const object = (id: number, more: Partial<ExportedObject>): ExportedObject => ({
  id,
  layer: 0,
  path: null,
  text: null,
  line,
  fill: null,
  fillRule: 'nonzero',
  ...more,
});

it('what has no degrees of its own lies where it is in degrees, beside what came in so', () => {
  const [lon, lat] = [-4.40012, 55.80034];
  const at = transverseMercator(lon, lat, -4);
  const [x, y] = [at.x * 1000, at.y * 1000];
  const told =
    '{"type":"Feature","id":"KS","properties":{"depth":5},"geometry":{"type":"Point","coordinates":[-4.4,55.8,2]}}';
  const drawing: ExportedDrawing = {
    name: 'Coast',
    unit: 'mm',
    meridianDeg: -4,
    layers: [{ name: 'Marks', colour: '#000000' }],
    box: { minX: x, minY: y, maxX: x + 1000, maxY: y },
    objects: () => [
      object(0, { path: new PathBuilder().moveTo(x, y).lineTo(x + 1000, y), told }),
      object(1, { path: new PathBuilder().moveTo(x, y).lineTo(x + 1000, y) }),
    ],
  };
  const out = JSON.parse([...writeGeoJson(drawing)].join('')) as {
    features: { geometry: { coordinates: number[][] } }[];
  };
  expect(out).not.toHaveProperty('plane');
  expect(out.features[0]).toEqual(JSON.parse(told));
  const [first, second] = out.features[1]!.geometry.coordinates as [number[], number[]];
  expect(first[0]).toBeCloseTo(lon, 10);
  expect(first[1]).toBeCloseTo(lat, 10);
  // a metre eastwards: so many degrees at that latitude (WGS 84, 111,320 m · cos φ a degree, to a part in 300)
  expect((second[0]! - first[0]!) * 111_320 * Math.cos((lat * Math.PI) / 180)).toBeCloseTo(1, 2);
});
