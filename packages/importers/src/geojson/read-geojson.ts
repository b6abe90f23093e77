import { JSONParser } from '@streamparser/json';
import type { ReadResult } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';
import { GeometryDrawer, type GeoJsonLimits, type GeoJsonSink } from './geometry-drawer.ts';
import { isObject, type Json } from './json-value.ts';

/** Says, before all features, that coordinates lie on a plane: in metres, or in unknown units. */
const PLANE = /^[^[]{0,2000}"plane"\s*:\s*"(metres|units)"/;
/**
 * Reads GeoJSON (RFC 7946) piece by piece, feature by feature. Longitudes and latitudes are laid on a plane along the whole
 * degree nearest to the first place, in millimetres; coordinates that can't be degrees are taken as metres of a plane.
 */
export class GeoJsonReader {
  readonly #warnings = new Warnings();
  readonly #drawer: GeometryDrawer;
  readonly #parser: JSONParser;
  /** Bytes so far, and where the last token began. */
  #written = 0;
  #lastToken = 0;
  #line = 1;
  #column = 1;
  #features = 0;
  #hasRoot = false;

  constructor(sink: GeoJsonSink, limits: GeoJsonLimits) {
    const warn = (code: string, message: string): void => this.#warn(code, message);
    this.#drawer = new GeometryDrawer(sink, limits, warn, () => this.#place);
    this.#parser = new JSONParser({ paths: ['$.features.*', '$'], keepStack: false });
    this.#parser.onToken = ({ offset }) => {
      this.#lastToken = offset;
    };
    this.#parser.onValue = ({ value, key, parent, stack }) => {
      if (stack.length === 0) {
        this.#root(value as Json);
        return;
      }
      this.#feature(value as Json);
      // the list that is being read would keep them all
      if (Array.isArray(parent) && typeof key === 'number') parent[key] = null;
    };
  }

  get elements(): number {
    return this.#drawer.elements;
  }

  /** @throws ReadError where the text is no JSON, with its line and column, or a limit is reached */
  write(text: string): void {
    if (this.#written === 0) this.#head(text);
    try {
      this.#parser.write(text);
    } catch (error) {
      throw this.#faultAt(error, text);
    }
    this.#advance(text);
  }

  /** @throws ReadError if the file ends too early or is no GeoJSON */
  end(): ReadResult & { readonly layerOfNode: readonly number[] } {
    if (!this.#parser.isEnded) {
      try {
        this.#parser.end();
      } catch {
        // said below
      }
      throw new ReadError('malformed-json', 'The file ends in the middle.', this.#place);
    }
    if (!this.#hasRoot) throw new ReadError('not-geojson', 'The file holds no GeoJSON object.');
    const layers = this.#drawer.layers.map((name) => ({ name }));
    return {
      unit: this.#drawer.unit,
      layers,
      layerOfNode: layers.map((_, index) => index),
      styles: this.#drawer.styles.styles,
      warnings: this.#warnings.list(),
      ...(this.#drawer.meridianDeg === null ? {} : { meridianDeg: this.#drawer.meridianDeg }),
    };
  }

  /** A plane that is told needn't be guessed. */
  #head(text: string): void {
    const [, plane] = PLANE.exec(text) ?? [];
    if (plane !== undefined) this.#drawer.layOnPlane(plane as 'metres' | 'units');
  }

  get #place(): { line: number; column: number } {
    return { line: this.#line, column: this.#column };
  }

  #advance(text: string): void {
    this.#written += bytesOf(text);
    const lines = text.split('\n');
    this.#line += lines.length - 1;
    this.#column = lines.length > 1 ? lines.at(-1)!.length + 1 : this.#column + text.length;
  }

  #faultAt(error: unknown, text: string): unknown {
    if (error instanceof ReadError) return error;
    const message = error instanceof Error ? error.message : String(error);
    // a letter out of place is told with its position, a word out of place was told as a token
    const position = Number(/absolute position "?(\d+)/.exec(message)?.[1] ?? this.#lastToken);
    let bytes = this.#written;
    let at = 0;
    while (at < text.length && bytes < position) bytes += bytesOf(text[at++]!);
    this.#advance(text.slice(0, at));
    return new ReadError('malformed-json', 'The text isn’t valid JSON here.', this.#place);
  }

  #root(value: Json): void {
    this.#hasRoot = true;
    if (!isObject(value) || typeof value.type !== 'string')
      throw new ReadError('not-geojson', 'The file is JSON, but its outermost value has no “type” as GeoJSON has.');
    if (value.crs !== undefined)
      this.#warn(
        'not-supported',
        'a coordinate system of its own (“crs”) is no part of the standard and is not looked at',
      );
    if (value.type === 'FeatureCollection') return;
    if (value.type === 'Feature') this.#feature(value);
    else if (isGeometry(value.type)) this.#feature({ type: 'Feature', geometry: value, properties: null });
    else throw new ReadError('not-geojson', `“${value.type.slice(0, 40)}” is no type of GeoJSON.`);
  }

  #feature(value: Json): void {
    this.#features++;
    if (!isObject(value) || value.type !== 'Feature') {
      this.#warn('bad-geometry', 'something in the list of features that is none is left out');
      return;
    }
    const properties = isObject(value.properties) ? value.properties : {};
    if (isObject(value.geometry)) this.#drawer.geometry(value.geometry, properties, value.id);
  }

  #warn(code: string, message: string): void {
    this.#warnings.add(code, message, this.#line);
  }
}

const isGeometry = (type: string): boolean =>
  ['Point', 'MultiPoint', 'LineString', 'MultiLineString', 'Polygon', 'MultiPolygon', 'GeometryCollection'].includes(
    type,
  );

/** Length in UTF-8; half a surrogate pair is half of its four bytes. */
function bytesOf(text: string): number {
  let bytes = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    bytes += code < 0x80 ? 1 : code < 0x800 || (code >= 0xd800 && code < 0xe000) ? 2 : 3;
  }
  return bytes;
}
