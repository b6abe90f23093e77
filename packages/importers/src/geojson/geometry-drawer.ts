import { colord } from 'colord';
import type { Colour, DrawingSink } from '@gull-pane/core/drawing/model';
import { transverseMercator } from '@gull-pane/core/geometry/transverse-mercator';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import { ReadError } from '../read-error.ts';
import { StyleTable } from '../style-table.ts';
import { isObject, type Json, type JsonObject } from './json-value.ts';

/** A sink that also takes searchable facts about the element it received last. */
export interface GeoJsonSink extends DrawingSink {
  /** @param values what can be looked for, as `name: value` */
  facts?(values: readonly string[]): void;
}

export interface GeoJsonLimits {
  readonly maxElements: number;
  readonly maxSteps: number;
}

const MM_PER_M = 1000;
/** Arms of the cross that a point is drawn as, mm. */
const CROSS_MM = 500;
/** Layers beyond this share the last one. */
const MAX_LAYERS = 4096;
/** Properties of one feature that can be looked for, and how long each may be. */
const MAX_FACTS = 24;
const MAX_FACT_LENGTH = 200;
const MAX_TEXT = 4000;
/** Inks of the layers, in turns: told from each other and from paper. */
const inks = ['#1f5f8b', '#8b3a1f', '#2e7d4f', '#6b4a8b', '#8f5d14', '#1f7a8c', '#7a2e52', '#465a2c'];
const AREA_ALPHA = 36;
const LINE_WIDTH_MM = 100;

/** Draws geometries: onto layers, in styles, on one plane. */
export class GeometryDrawer {
  readonly styles = new StyleTable();
  readonly #layers = new Map<string, number>();
  #meridianDeg: number | null = null;
  #isPlane = false;
  /** Of a plane's coordinates. */
  #perUnit = MM_PER_M;
  #elements = 0;
  #steps = 0;

  /**
   * @param warn says what is left out or drawn otherwise
   * @param place where in the file the reader is
   */
  constructor(
    private readonly sink: GeoJsonSink,
    private readonly limits: GeoJsonLimits,
    private readonly warn: (code: string, message: string) => void,
    private readonly place: () => { line: number; column: number },
  ) {}

  get elements(): number {
    return this.#elements;
  }

  /** In the order of their numbers. */
  get layers(): readonly string[] {
    return [...this.#layers.keys()];
  }

  get unit(): 'none' | 'mm' {
    return this.#perUnit === 1 ? 'none' : 'mm';
  }

  /** The coordinates lie on a plane, which needn't be guessed. */
  layOnPlane(unit: 'metres' | 'units'): void {
    this.#isPlane = true;
    this.#meridianDeg = 0;
    if (unit === 'units') this.#perUnit = 1;
  }

  /** The meridian that degrees are laid along; null on a plane of its own. */
  get meridianDeg(): number | null {
    return this.#isPlane ? null : this.#meridianDeg;
  }

  /**
   * Draws a geometry in the colours that its feature's properties name, on the layer that they name.
   * @param id of the feature, if it has one
   */
  geometry(geometry: JsonObject, properties: JsonObject, id?: Json, depth = 0): void {
    const { coordinates, geometries } = geometry;
    const type = typeof geometry.type === 'string' ? geometry.type : 'none';
    if (type === 'GeometryCollection' && Array.isArray(geometries) && depth < 8) {
      for (const one of geometries as readonly Json[]) if (isObject(one)) this.geometry(one, properties, id, depth + 1);
      return;
    }
    const told = writtenAgain({ type: 'Feature', ...(id === undefined ? {} : { id }), properties, geometry });
    const path = new PathBuilder();
    const parts = (value: Json | undefined): readonly Json[] =>
      Array.isArray(value) ? (value as readonly Json[]) : [];
    switch (type) {
      case 'Point':
        if (this.#text(coordinates, properties, told)) return;
        this.#cross(path, coordinates);
        break;
      case 'MultiPoint':
        for (const point of parts(coordinates)) this.#cross(path, point);
        break;
      case 'LineString':
        this.#chain(path, coordinates, false);
        break;
      case 'MultiLineString':
        for (const line of parts(coordinates)) this.#chain(path, line, false);
        break;
      case 'Polygon':
        for (const ring of parts(coordinates)) this.#chain(path, ring, true);
        break;
      case 'MultiPolygon':
        for (const polygon of parts(coordinates)) for (const ring of parts(polygon)) this.#chain(path, ring, true);
        break;
      default:
        this.warn('bad-geometry', `a geometry of the unknown type “${type.slice(0, 40)}” is left out`);
        return;
    }
    if (path.ops.length < 2) return;
    this.#draw(path, properties, type, told);
  }

  #draw(path: PathBuilder, properties: JsonObject, type: string, told: string | null): void {
    const isArea = type === 'Polygon' || type === 'MultiPolygon';
    this.#count(path.ops.length);
    const layer = this.#layerOf(properties, type);
    const width = properties['stroke-width'];
    const widthMm = typeof width === 'number' && width > 0 ? width * this.#perUnit : LINE_WIDTH_MM;
    const ink = colourOf(properties.stroke) ?? colourOf(inks[layer % inks.length])!;
    const fill = colourOf(properties.fill) ?? ink;
    const alpha = typeof properties['fill-opacity'] === 'number' ? properties['fill-opacity'] * 255 : AREA_ALPHA;
    const lineStyle = this.styles.index('line', layer, ink, widthMm, []);
    const a = Math.round(Math.min(Math.max(alpha, 0), 255));
    const fillStyle = isArea && a > 0 ? this.styles.index('fill', layer, { ...fill, a }, 0, []) : -1;
    this.sink.path({ layer, lineStyle, fillStyle, fillRule: 'evenodd', path, ...(told === null ? {} : { told }) });
    const facts = Object.entries(properties)
      .flatMap(([name, value]) => (typeof value === 'string' || typeof value === 'number' ? [`${name}: ${value}`] : []))
      .slice(0, MAX_FACTS)
      .map((fact) => fact.slice(0, MAX_FACT_LENGTH));
    if (facts.length > 0) this.sink.facts?.(facts);
  }

  /** @throws ReadError if there is too much of it */
  #count(steps: number): void {
    this.#elements++;
    this.#steps += steps;
    const { maxElements, maxSteps } = this.limits;
    if (this.#elements > maxElements)
      throw new ReadError(
        'limit-exceeded',
        `The drawing has more than ${maxElements} elements (GULL_PANE_MAX_ELEMENTS).`,
        this.place(),
      );
    if (this.#steps > maxSteps)
      throw new ReadError('limit-exceeded', `The paths have more than ${maxSteps} steps in all.`, this.place());
  }

  /** Draws a point that has `text` and `textSize` properties as that text. @returns whether it did */
  #text(coordinates: Json | undefined, properties: JsonObject, told: string | null): boolean {
    const { text, textSize, angle, anchor, weight } = properties;
    if (typeof text !== 'string' || text === '' || typeof textSize !== 'number' || !(textSize > 0)) return false;
    const at = this.#point(coordinates);
    if (!at) return true;
    const layer = this.#layerOf(properties, 'Text');
    const ink = colourOf(properties.fill) ?? colourOf(inks[layer % inks.length])!;
    this.#count(1);
    this.sink.text({
      layer,
      style: this.styles.index('text', layer, ink, 0, []),
      mark: {
        text: text.slice(0, MAX_TEXT),
        x: at.x,
        y: at.y,
        size: textSize * (this.#isPlane ? this.#perUnit : MM_PER_M),
        angleRad: typeof angle === 'number' ? (angle * Math.PI) / 180 : 0,
        anchor: anchor === 'middle' || anchor === 'end' ? anchor : 'start',
        weight: weight === 'bold' ? 'bold' : 'normal',
      },
      ...(told === null ? {} : { told }),
    });
    return true;
  }

  /** By the property that names it, else by the kind of geometry. */
  #layerOf(properties: JsonObject, type: string): number {
    const named = properties.layer ?? properties.Layer ?? properties.class;
    const name = typeof named === 'string' && named.trim() !== '' ? named.trim().slice(0, 200) : type;
    const known = this.#layers.get(name);
    if (known !== undefined) return known;
    if (this.#layers.size >= MAX_LAYERS) return MAX_LAYERS - 1;
    this.#layers.set(name, this.#layers.size);
    return this.#layers.size - 1;
  }

  #cross(path: PathBuilder, value: Json | undefined): void {
    const at = this.#point(value);
    if (!at) return;
    this.warn('approximated', 'points are drawn as crosses of 1 m');
    path.moveTo(at.x - CROSS_MM, at.y).lineTo(at.x + CROSS_MM, at.y);
    path.moveTo(at.x, at.y - CROSS_MM).lineTo(at.x, at.y + CROSS_MM);
  }

  #chain(path: PathBuilder, value: Json | undefined, isRing: boolean): void {
    if (!Array.isArray(value)) return;
    const points = (value as readonly Json[]).flatMap((one) => this.#point(one) ?? []);
    const [first] = points;
    if (!first) return;
    const last = points.at(-1)!;
    if (isRing && points.length > 3 && last.x === first.x && last.y === first.y) points.pop(); // a ring names it twice
    points.forEach(({ x, y }, index) => {
      if (index === 0) path.moveTo(x, y);
      else path.lineTo(x, y);
    });
    if (isRing) path.close();
  }

  #point(value: Json | undefined): { x: number; y: number } | null {
    const [a, b] = Array.isArray(value) ? (value as readonly Json[]) : [];
    if (typeof a !== 'number' || typeof b !== 'number' || !(Math.abs(a) + Math.abs(b) < 1e12)) {
      this.warn('bad-geometry', 'a place that is no pair of numbers is left out');
      return null;
    }
    const isDegrees = Math.abs(a) <= 180 && Math.abs(b) <= 90;
    if (this.#meridianDeg === null) {
      this.#meridianDeg = Math.round(a);
      this.#isPlane = !isDegrees;
      const told = this.#isPlane
        ? 'coordinates are no longitudes and latitudes; they are taken as metres east and north'
        : `longitudes and latitudes are laid on a plane along ${this.#meridianDeg}°: transverse Mercator, WGS 84, scale 1, millimetres from there and from the equator`;
      this.warn('approximated', told);
    }
    if (this.#isPlane) return { x: a * this.#perUnit, y: b * this.#perUnit };
    if (!isDegrees || Math.abs(a - this.#meridianDeg) > 80) {
      this.warn('bad-geometry', 'a place too far from the others to lie on one plane with them is left out');
      return null;
    }
    const { x, y } = transverseMercator(a, b, this.#meridianDeg);
    return { x: x * MM_PER_M, y: y * MM_PER_M };
  }
}

/** @returns null for what is nested deeper than it can be written */
function writtenAgain(feature: JsonObject): string | null {
  try {
    return JSON.stringify(feature);
  } catch {
    return null;
  }
}

function colourOf(value: Json | undefined): Colour | null {
  if (typeof value !== 'string') return null;
  const parsed = colord(value);
  if (!parsed.isValid()) return null;
  const { r, g, b, a } = parsed.toRgb();
  return { r, g, b, a: Math.round(a * 255) };
}
