import { bytesOf, comb, times, type HostileFile, entriesOf } from './hostile-file.ts';

const file = entriesOf('Hostile.geojson', bytesOf);
const line = '{"type":"Feature","properties":{},"geometry":{"type":"LineString","coordinates":[[0,0],[9,0]]}}';
const feature = (geometry: string, properties = '{}'): string =>
  `{"type":"Feature","properties":${properties},"geometry":${geometry}}`;
const collection = (...features: readonly string[]): string =>
  `{"type":"FeatureCollection","features":[${[line, ...features].join(',')}]}`;

/** Maps in GeoJSON that are deep, endless or full of what is no coordinate. */
export const hostileGeoJson: readonly HostileFile[] = [
  file(
    'an area of two hundred thousand corners that isn’t convex',
    'ready',
    () => {
      const outline = comb(200_000);
      return collection(feature(JSON.stringify({ type: 'Polygon', coordinates: [[...outline, outline[0]]] })));
    },
    { counts: { objects: 2 } },
  ),
  file(
    'an area with ten thousand holes',
    'ready',
    () => {
      const square = (x: number, y: number, size: number): number[][] => [
        [x, y],
        [x + size, y],
        [x + size, y + size],
        [x, y + size],
        [x, y],
      ];
      const holes = Array.from({ length: 10_000 }, (_, i) => square(1 + 2 * (i % 100), 1 + 2 * Math.floor(i / 100), 1));
      return collection(feature(JSON.stringify({ type: 'Polygon', coordinates: [square(0, 0, 300), ...holes] })));
    },
    { counts: { objects: 2 } },
  ),
  file('a hundred thousand brackets within one another', 'ready', () =>
    collection(feature(`{"type":"Polygon","coordinates":${'['.repeat(100_000)}${']'.repeat(100_000)}}`)),
  ),
  file('geometries within geometries, fifty thousand deep', 'ready', () =>
    collection(feature(`${'{"type":"GeometryCollection","geometries":['.repeat(50_000)}${']}'.repeat(50_000)}`)),
  ),
  file('properties of ten million letters', 'ready', () =>
    collection(feature('{"type":"Point","coordinates":[1,1]}', `{"note":"${'x'.repeat(10_000_000)}"}`)),
  ),
  file('properties a hundred thousand deep', 'ready', () =>
    collection(
      feature('{"type":"Point","coordinates":[1,1]}', `{"a":${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}}`),
    ),
  ),
  file('coordinates that are no numbers', 'ready', () =>
    collection(
      feature('{"type":"LineString","coordinates":[["a",null],[{}],[1e400,5],[]]}'),
      feature('null'),
      'null',
      '7',
    ),
  ),
  file('a hundred thousand features of a point', 'ready', () =>
    collection(times(100_000, (i) => `${i ? ',' : ''}${feature(`{"type":"Point","coordinates":[${i},${i % 99}]}`)}`)),
  ),
  file('a map that ends in the middle', 'malformed-json', () =>
    collection(times(1000, (i) => `${i ? ',' : ''}${line}`)).slice(0, 50_000),
  ),
  file('JSON that is no map', 'not-geojson', () => '{"type":"Kelpie","features":[1,2,3]}'),
];
