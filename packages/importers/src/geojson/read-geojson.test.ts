import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PathElement } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import { boxOf } from '../svg/read-whole.ts';
import { GeoJsonReader } from './read-geojson.ts';
import { transverseMercator } from '@gull-pane/core/geometry/transverse-mercator';

const limits = { maxElements: 1000, maxSteps: 10_000 };

function read(value: unknown, pieceLength = Infinity) {
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  const paths: PathElement[] = [];
  const facts: (readonly string[])[] = [];
  const sink = {
    path: (path: PathElement) => void paths.push(path),
    text: () => undefined,
    picture: () => undefined,
    facts: (values: readonly string[]) => void facts.push(values),
  };
  const reader = new GeoJsonReader(sink, limits);
  const step = Math.min(pieceLength, text.length) || 1;
  for (let at = 0; at < text.length; at += step) reader.write(text.slice(at, at + step));
  return { ...reader.end(), paths, facts };
}

function faultOf(value: unknown): ReadError {
  try {
    read(value);
  } catch (error) {
    if (error instanceof ReadError) return error;
    throw error;
  }
  throw new Error('expected a ReadError');
}

const feature = (type: string, coordinates: unknown, properties: object = {}): object => ({
  type: 'Feature',
  properties,
  geometry: { type, coordinates },
});
const collection = (...features: object[]): object => ({ type: 'FeatureCollection', features });

describe('the plane', () => {
  it('has the length of the meridian, and known places of a zone of 6 degrees', () => {
    expect(transverseMercator(9, 45, 9)).toEqual({ x: 0, y: expect.closeTo(4_984_944.378, 3) as number });
    expect(transverseMercator(0, 90, 0).y).toBeCloseTo(10_001_965.729, 2); // a quarter of the meridian
    // a tower whose place is published both ways, zone 17: scale 0.9996, 500 km to the east
    const { x, y } = transverseMercator(-79.387139, 43.642566, -81);
    expect(x * 0.9996 + 500_000).toBeCloseTo(630_084, -1);
    expect(y * 0.9996).toBeCloseTo(4_833_438, -1);
  });

  it('keeps lengths near the meridian and turns over with its sides', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -0.5, max: 0.5, noNaN: true }),
        fc.double({ min: -70, max: 70, noNaN: true }),
        (lon, lat) => {
          const a = transverseMercator(lon, lat, 0);
          const b = transverseMercator(-lon, lat, 0);
          expect(b.x).toBeCloseTo(-a.x, 6);
          expect(b.y).toBeCloseTo(a.y, 6);
          const step = 1e-5;
          const north = transverseMercator(lon, lat + step, 0);
          const radius =
            (6_378_137 * (1 - 0.00669437999014)) / (1 - 0.00669437999014 * Math.sin((lat * Math.PI) / 180) ** 2) ** 1.5;
          const length = Math.hypot(north.x - a.x, north.y - a.y);
          expect(length / ((step * Math.PI) / 180) / radius).toBeCloseTo(1, 4);
        },
      ),
    );
  });
});

describe('GeoJSON', () => {
  it('lays degrees on a plane of millimetres and says so', () => {
    const { paths, unit, warnings } = read(
      collection(
        feature('LineString', [
          [10, 50],
          [10, 50.001],
        ]),
      ),
    );
    expect(unit).toBe('mm');
    const [minX, minY, , maxY] = boxOf(paths[0]!.path);
    expect(minX).toBeCloseTo(0, 6);
    expect((maxY! - minY!) / 1000).toBeCloseTo(111.229, 2); // a thousandth of a degree there
    expect(warnings[0]!.message).toContain('along 10°: transverse Mercator, WGS 84');
  });

  it('takes coordinates that can’t be degrees as metres', () => {
    const { paths, warnings } = read(
      collection(
        feature('LineString', [
          [412_600, 7_208_400],
          [412_700, 7_208_400.5],
        ]),
      ),
    );
    expect(boxOf(paths[0]!.path)).toEqual([412_600_000, 7_208_400_000, 412_700_000, 7_208_400_500]);
    expect(warnings[0]!.message).toContain('metres');
  });

  it.each([
    ['Point', [1000, 2000], 1, false],
    [
      'MultiPoint',
      [
        [1000, 2000],
        [3000, 2000],
      ],
      1,
      false,
    ],
    [
      'MultiLineString',
      [
        [
          [1000, 0],
          [2000, 0],
        ],
        [
          [1000, 9],
          [2000, 9],
        ],
      ],
      1,
      false,
    ],
    [
      'Polygon',
      [
        [
          [1000, 0],
          [2000, 0],
          [2000, 9],
          [1000, 0],
        ],
        [
          [1100, 1],
          [1200, 1],
          [1200, 2],
          [1100, 1],
        ],
      ],
      1,
      true,
    ],
    [
      'MultiPolygon',
      [
        [
          [
            [1000, 0],
            [2000, 0],
            [2000, 9],
            [1000, 0],
          ],
        ],
      ],
      1,
      true,
    ],
  ])('%s', (type, coordinates, count, isArea) => {
    const { paths } = read(collection(feature(type, coordinates)));
    expect(paths).toHaveLength(count);
    expect(paths[0]!.fillStyle >= 0).toBe(isArea);
  });

  it('makes layers of what names them, colours of what gives them, and keeps properties to look for', () => {
    const { layers, styles, facts, paths } = read(
      collection(
        feature(
          'LineString',
          [
            [1000, 0],
            [2000, 0],
          ],
          { layer: 'Sea water', tag: 'KS-VA-0417', size: 300, stroke: '#ff0000' },
        ),
        feature('LineString', [
          [1000, 0],
          [2000, 9],
        ]),
      ),
    );
    expect(layers.map(({ name }) => name)).toEqual(['Sea water', 'LineString']);
    expect(styles[paths[0]!.lineStyle]!.colour).toMatchObject({ r: 255, g: 0, b: 0 });
    expect(facts).toEqual([['layer: Sea water', 'tag: KS-VA-0417', 'size: 300', 'stroke: #ff0000']]);
  });

  it('also a single feature, a bare geometry, collections of geometries', () => {
    expect(
      read(
        feature('LineString', [
          [1000, 0],
          [2000, 0],
        ]),
      ).paths,
    ).toHaveLength(1);
    expect(
      read({
        type: 'LineString',
        coordinates: [
          [1000, 0],
          [2000, 0],
        ],
      }).paths,
    ).toHaveLength(1);
    const geometry = {
      type: 'GeometryCollection',
      geometries: [
        {
          type: 'LineString',
          coordinates: [
            [1000, 0],
            [2000, 0],
          ],
        },
      ],
    };
    expect(read({ type: 'Feature', properties: null, geometry }).paths).toHaveLength(1);
  });

  it('is the same in pieces of any length', () => {
    const text = JSON.stringify(
      collection(
        feature(
          'Polygon',
          [
            [
              [10, 50],
              [10.01, 50],
              [10.01, 50.01],
              [10, 50],
            ],
          ],
          { name: 'Prüfstand „Süd“' },
        ),
      ),
    );
    const whole = read(text);
    for (const length of [1, 2, 7]) {
      const pieces = read(text, length);
      expect([...(pieces.paths[0]!.path.coords as number[])]).toEqual([...(whole.paths[0]!.path.coords as number[])]);
      expect(pieces.facts).toEqual(whole.facts);
    }
  });

  it.each([
    ['broken', '{"type":"FeatureCollection",\n"features":[{]}', 'malformed-json', 2],
    ['cut off', '{"type":"FeatureCollection","features":[', 'malformed-json', 1],
    ['something else', '{"name":"Kelpie Sound"}', 'not-geojson', undefined],
    ['another type', '{"type":"Topology"}', 'not-geojson', undefined],
  ])('%s: says what and where', (_name, text, code, line) => {
    const fault = faultOf(text);
    expect(fault.code).toBe(code);
    expect(fault.place?.line).toBe(line);
  });

  it('leaves out what is no place, and counts it; ends at its limits', () => {
    const odd = collection(
      feature('LineString', [[1000, 0], ['x', 1], null, [2000, 0]]),
      feature('Circle', [[1, 2]]),
      { type: 'Feature', properties: null, geometry: null },
      feature('Point', []),
    );
    const { paths, warnings } = read(odd);
    expect(paths).toHaveLength(1);
    expect(warnings.filter(({ code }) => code === 'bad-geometry').reduce((sum, { count }) => sum + count, 0)).toBe(4);
    const many = collection(
      ...Array.from({ length: 1001 }, () =>
        feature('LineString', [
          [1000, 0],
          [2000, 0],
        ]),
      ),
    );
    expect(faultOf(many).code).toBe('limit-exceeded');
  });
});
