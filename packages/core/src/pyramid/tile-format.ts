import type { TextAnchor, TextMark } from '../drawing/model.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { Growable } from '../geometry/growable.ts';
import { RELATIVE_CHORD_ERROR, flattenPath, within } from '../drawing/flatten.ts';
import { Op } from '../drawing/path.ts';
import { inDrawingOrder, type TileStyle } from './drawing-order.ts';
import { packGlb, unpackGlb } from './glb.ts';
import { ItemKind, type ItemTable } from './items.ts';
import { simplify } from './simplify.ts';
import { decodeStandIns, encodeStandIns, type StandInJson, type StandIns } from './stand-ins.ts';

/**
 * Our tiles: plain glTF 2.0 that any 3D Tiles client can draw, with one primitive a style, so that colours are ordinary
 * materials. glTF is Y up, so a drawing's (x, y, z) is written as (x, z, −y), relative to the tile's origin. What glTF
 * has no place for stands in `extras`: the style of a primitive, the objects of its vertices, the texts.
 */
export type { TileStyle } from './drawing-order.ts';

/** A text of a tile; place in drawing units relative to the tile's origin. */
export interface TileText extends TextMark {
  readonly style: number;
  readonly object: number;
}

/** A stretch of a tile's indices that share one style. */
export interface StyleRun {
  readonly style: number;
  readonly start: number;
  readonly count: number;
}

/** A tile ready for drawing. Positions in drawing units relative to the tile's origin, X east, Y north, Z up. */
export interface DecodedTile {
  /** x, y, z a vertex. */
  readonly positions: Float32Array<ArrayBuffer>;
  /** Style of each vertex. */
  readonly styles: Uint16Array<ArrayBuffer>;
  /** Length along the element at each vertex, drawing units; only dashed lines have one. */
  readonly along: Float32Array<ArrayBuffer>;
  /** Two vertices a segment. */
  readonly lines: Uint32Array<ArrayBuffer>;
  readonly lineRuns: readonly StyleRun[];
  /** Three vertices a triangle. */
  readonly triangles: Uint32Array<ArrayBuffer>;
  readonly triangleRuns: readonly StyleRun[];
  /** Pairs of first vertex and object, rising; a vertex belongs to the last pair at or before it. */
  readonly objects: Uint32Array<ArrayBuffer>;
  readonly texts: readonly TileText[];
  /** What stands for the ink of each child and all below it, as long as it isn't drawn; relative to the tile's origin. */
  readonly standIns: readonly StandIns[];
}

const FLOAT = 5126;
const UNSIGNED_INT = 5125;
const UNSIGNED_SHORT = 5123;
const LINES = 1;
const TRIANGLES = 4;

interface Primitive {
  attributes: { POSITION: number; _ALONG?: number };
  indices?: number;
  mode: number;
  material: number;
  extras: { style: number };
}
interface Accessor {
  bufferView: number;
  byteOffset: number;
  componentType: number;
  count: number;
  type: string;
  min?: number[];
  max?: number[];
}
interface BufferView {
  buffer: number;
  byteOffset: number;
  byteLength: number;
}
/** x, y, size, angle, anchor, weight, style, object, text */
type TextRow = [number, number, number, number, TextAnchor, TextMark['weight'], number, number, string];

interface TileJson {
  accessors: Accessor[];
  bufferViews: BufferView[];
  meshes: { primitives: Primitive[] }[];
  extras: { objects: number; texts: TextRow[]; standIns?: StandInJson & { ends: number } };
}

export interface EncodeOptions {
  /** The tile's place in drawing units. */
  readonly origin: Vec2;
  /** How a style looks, by its index. */
  readonly styleOf: (style: number) => TileStyle;
  /** Lines may leave their exact course by this much, drawing units; their exact form is the tile's detail. */
  readonly tolerance: number;
  /** Vertices of lines stand on a grid of this step, drawing units, a power of two: what can't be seen isn't sent. */
  readonly step: number;
  /** Of the tile's children, drawing units. */
  readonly standIns?: readonly StandIns[];
  /** The tile's longer side, drawing units; needed with stand-ins. */
  readonly longer?: number;
}

export interface EncodedTile {
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** How far lines may be from their exact course, drawing units. */
  readonly lineError: number;
  /** How far areas may be from their exact outline, drawing units; 0 if there are none. */
  readonly fillError: number;
  readonly segments: number;
  readonly triangles: number;
  /** The items in the order in which they stand in the tile, without texts. */
  readonly order: readonly number[];
}

/**
 * Encodes the items of one tile.
 * @param items indices into the table
 */
export function encodeTile(table: ItemTable, items: readonly number[], options: EncodeOptions): EncodedTile {
  const { origin, styleOf, tolerance, step, standIns = [], longer = 1 } = options;
  const courseOf = new Map<number, Course>();
  let isCoarse = false;
  for (const item of items) {
    if (table.kind.at(item) !== ItemKind.line) continue;
    const course = coarseCourse(table, item, tolerance);
    courseOf.set(item, course);
    isCoarse ||= course.kept.length < course.count || table.opsCount.at(item) > 0;
  }
  const drawn = inDrawingOrder(table, items, styleOf);
  const positions = new Growable(Float32Array);
  const along = new Growable(Float32Array);
  const indices = new Growable(Uint32Array);
  const objects = new Growable(Uint32Array);
  const groups: Group[] = [];
  for (const item of drawn) {
    const kind = table.kind.at(item);
    const style = table.style.at(item);
    let group = groups.at(-1);
    if (group?.kind !== kind || group.style !== style) {
      const isDashed = kind === ItemKind.line && styleOf(style).isDashed;
      const begins = { vertex: positions.length / 3, index: indices.length, along: along.length };
      group = { kind, style, isDashed, ...begins };
      groups.push(group);
    }
    objects.append([positions.length / 3, table.object.at(item)]);
    const first = positions.length / 3 - group.vertex;
    const whole = { xy: table.xy.view(), start: table.start.at(item), count: table.points.at(item), kept: null };
    const { xy, start, count, kept } = courseOf.get(item) ?? whole;
    let length = table.along.at(item);
    let vertex = 0;
    for (let i = 0; i < count; i++) {
      const x = xy[start + 2 * i]!;
      const y = xy[start + 2 * i + 1]!;
      if (group.isDashed && i > 0) length += Math.hypot(x - xy[start + 2 * i - 2]!, y - xy[start + 2 * i - 1]!);
      if (kept && kept[vertex] !== i) continue;
      const onGrid = (value: number): number => (kept ? Math.round(value / step) * step : value);
      positions.append([onGrid(x - origin.x), 0, -onGrid(y - origin.y)]);
      if (group.isDashed) along.push(length);
      if (kind === ItemKind.line && vertex > 0) indices.append([first + vertex - 1, first + vertex]);
      vertex++;
    }
  }
  const buffer = new BufferWriter();
  const positionView = buffer.add(positions.view());
  const isShort = positions.length / 3 <= 0xffff;
  const indexView = indices.length > 0 ? buffer.add(isShort ? Uint16Array.from(indices.view()) : indices.view()) : -1;
  const alongView = along.length > 0 ? buffer.add(along.view()) : -1;
  const objectView = objects.length > 0 ? buffer.add(objects.view()) : -1;
  const ink = encodeStandIns(standIns, origin, longer);
  const inkView = ink.ends.length > 0 ? buffer.add(ink.ends) : -1;

  const accessors: Accessor[] = [];
  const accessor = (entry: Accessor): number => accessors.push(entry) - 1;
  const primitives = groups.map((group, at): Primitive => {
    const next = groups[at + 1];
    const vertexEnd = next ? next.vertex : positions.length / 3;
    const primitive: Primitive = {
      attributes: { POSITION: accessor(positionAccessor(positionView, positions.view(), group.vertex, vertexEnd)) },
      mode: group.kind === ItemKind.line ? LINES : TRIANGLES,
      material: at,
      extras: { style: group.style },
    };
    if (group.kind === ItemKind.line) {
      const indexEnd = next?.kind === ItemKind.line ? next.index : indices.length;
      primitive.indices = accessor({
        bufferView: indexView,
        byteOffset: group.index * (isShort ? 2 : 4),
        componentType: isShort ? UNSIGNED_SHORT : UNSIGNED_INT,
        count: indexEnd - group.index,
        type: 'SCALAR',
      });
    }
    if (group.isDashed) {
      primitive.attributes._ALONG = accessor({
        bufferView: alongView,
        byteOffset: group.along * 4,
        componentType: FLOAT,
        count: vertexEnd - group.vertex,
        type: 'SCALAR',
      });
    }
    return primitive;
  });
  const bin = buffer.bytes();
  const texts = items
    .filter((item) => table.kind.at(item) === ItemKind.text)
    .map((item): TextRow => {
      const mark = table.texts[table.start.at(item)]!;
      const place = [mark.x - origin.x, mark.y - origin.y, mark.size, mark.angleRad] as const;
      return [...place, mark.anchor, mark.weight, table.style.at(item), table.object.at(item), mark.text];
    });
  const hasMesh = primitives.length > 0;
  const json = {
    asset: { version: '2.0', generator: 'Gull Pane' },
    scene: 0,
    scenes: [{ nodes: hasMesh ? [0] : [] }],
    nodes: hasMesh ? [{ mesh: 0 }] : [],
    meshes: hasMesh ? [{ primitives }] : [],
    materials: groups.map(({ style }) => material(styleOf(style))),
    accessors,
    bufferViews: buffer.views,
    buffers: bin.length > 0 ? [{ byteLength: bin.length }] : [],
    extensionsUsed: ['KHR_materials_unlit'],
    extras: { objects: objectView, texts, ...(inkView < 0 ? {} : { standIns: { ...ink.json, ends: inkView } }) },
  };
  const triangles = drawn.reduce(
    (sum, item) => sum + (table.kind.at(item) === ItemKind.fill ? table.weight.at(item) : 0),
    0,
  );
  const lineError = isCoarse ? tolerance : step / Math.SQRT2;
  const fills = items.filter((item) => table.kind.at(item) === ItemKind.fill);
  const fillError = fills.reduce((most, item) => Math.max(most, fillErrorOf(table, item, origin)), 0);
  const bytes = packGlb(withoutEmptyLists(json), bin);
  return { bytes, lineError, fillError, segments: indices.length / 2, triangles, order: drawn };
}

/** A polyline of which only some points are drawn. */
interface Course {
  readonly xy: ArrayLike<number>;
  readonly start: number;
  readonly count: number;
  readonly kept: readonly number[];
}

/** The course of a line item at a tolerance: curves by as few chords as will do, then without points that add nothing. */
function coarseCourse(table: ItemTable, item: number, tolerance: number): Course {
  let xy: ArrayLike<number> = table.xy.view();
  let start = table.start.at(item);
  let count = table.points.at(item);
  if (table.opsCount.at(item) > 0 && tolerance > 0) {
    const points: number[] = [];
    const add = (x: number, y: number): void => {
      points.push(x, y);
    };
    flattenPath(table.definitionOf(item), { move: add, line: add, close: () => undefined }, within(tolerance / 2));
    [xy, start, count] = [points, 0, points.length / 2];
  }
  return { xy, start, count, kept: simplify(xy, start, count, tolerance / 2) };
}

/** How far the triangles of an area may be from its outline: by their chords and by single precision. */
function fillErrorOf(table: ItemTable, item: number, origin: Vec2): number {
  const isCurved = Array.from(table.definitionOf(item).ops).some(
    (op) => op !== Op.move && op !== Op.line && op !== Op.close,
  );
  const chords = isCurved ? RELATIVE_CHORD_ERROR * table.sizeOf(item) : 0;
  const farthest = Math.max(
    ...[0, 2].map((at) => Math.abs(table.boxes.at(4 * item + at) - origin.x)),
    ...[1, 3].map((at) => Math.abs(table.boxes.at(4 * item + at) - origin.y)),
  );
  return chords + farthest * 2 ** -24;
}

interface Group {
  readonly kind: number;
  readonly style: number;
  readonly isDashed: boolean;
  readonly vertex: number;
  readonly index: number;
  readonly along: number;
}

const material = ({ colour }: TileStyle): unknown => ({
  pbrMetallicRoughness: { baseColorFactor: colour, metallicFactor: 0 },
  ...(colour[3] < 1 ? { alphaMode: 'BLEND' } : {}),
  doubleSided: true,
  extensions: { KHR_materials_unlit: {} },
});

/** glTF allows no empty arrays. */
const withoutEmptyLists = (json: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(json).filter(([, value]) => !(Array.isArray(value) && value.length === 0)));

function positionAccessor(bufferView: number, positions: Float32Array, from: number, to: number): Accessor {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 3 * from; i < 3 * to; i++) {
    min[i % 3] = Math.min(min[i % 3]!, positions[i]!);
    max[i % 3] = Math.max(max[i % 3]!, positions[i]!);
  }
  return { bufferView, byteOffset: 12 * from, componentType: FLOAT, count: to - from, type: 'VEC3', min, max };
}

class BufferWriter {
  readonly views: BufferView[] = [];
  readonly #parts: Uint8Array[] = [];
  #length = 0;

  add(data: Float32Array | Uint32Array | Uint16Array | Int16Array): number {
    const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    this.views.push({ buffer: 0, byteOffset: this.#length, byteLength: bytes.length });
    this.#parts.push(bytes);
    this.#length += (bytes.length + 3) & ~3;
    return this.views.length - 1;
  }

  bytes(): Uint8Array {
    const all = new Uint8Array(this.#length);
    this.views.forEach(({ byteOffset }, index) => all.set(this.#parts[index]!, byteOffset));
    return all;
  }
}

/**
 * Reads a tile that {@link encodeTile} wrote. Not a general glTF reader: it knows that vertices of all primitives follow
 * one another in one view.
 * @throws RangeError if the bytes are not such a tile
 */
export function decodeTile(bytes: Uint8Array): DecodedTile {
  const { json, bin } = unpackGlb(bytes);
  const tile = json as Partial<TileJson>;
  const { accessors = [], bufferViews = [], extras } = tile;
  if (!extras) throw new RangeError('decodeTile: no extras; this is a glTF file, but not one of our tiles');
  const primitives = tile.meshes?.[0]?.primitives ?? [];
  const raw = <T>(entry: Accessor, make: new (buffer: ArrayBufferLike, offset: number, length: number) => T): T => {
    const view = bufferViews[entry.bufferView];
    if (!view) throw new RangeError(`decodeTile: buffer view ${entry.bufferView} is missing`);
    return new make(bin.buffer, bin.byteOffset + view.byteOffset + entry.byteOffset, entry.count);
  };
  const scalars = (entry: Accessor, width: number): Accessor => ({ ...entry, count: entry.count * width });
  const positionsOf = (primitive: Primitive): Accessor => accessors[primitive.attributes.POSITION]!;
  const total = primitives.reduce((count, primitive) => count + positionsOf(primitive).count, 0);
  const positions = new Float32Array(3 * total);
  const styles = new Uint16Array(total);
  const along = new Float32Array(total);
  const lines = new Growable(Uint32Array);
  const triangles = new Growable(Uint32Array);
  const lineRuns: StyleRun[] = [];
  const triangleRuns: StyleRun[] = [];
  let base = 0;
  for (const primitive of primitives) {
    const entry = positionsOf(primitive);
    const source = raw(scalars(entry, 3), Float32Array);
    for (let i = 0; i < source.length; i += 3) {
      positions[3 * base + i] = source[i]!;
      positions[3 * base + i + 1] = -source[i + 2]!;
      positions[3 * base + i + 2] = source[i + 1]!;
    }
    const { style } = primitive.extras;
    styles.fill(style, base, base + entry.count);
    if (primitive.attributes._ALONG !== undefined)
      along.set(raw(accessors[primitive.attributes._ALONG]!, Float32Array), base);
    const target = primitive.mode === LINES ? lines : triangles;
    const start = target.length;
    if (primitive.indices === undefined) {
      for (let i = 0; i < entry.count; i++) target.push(base + i);
    } else {
      const indexEntry = accessors[primitive.indices]!;
      const isShort = indexEntry.componentType === UNSIGNED_SHORT;
      const index = isShort ? raw(indexEntry, Uint16Array) : raw(indexEntry, Uint32Array);
      for (const vertex of index) target.push(base + vertex);
    }
    (primitive.mode === LINES ? lineRuns : triangleRuns).push({ style, start, count: target.length - start });
    base += entry.count;
  }
  const sliced = (view: BufferView): ArrayBuffer =>
    bin.slice(view.byteOffset, view.byteOffset + view.byteLength).buffer;
  const objectView = bufferViews[extras.objects];
  const inkView = extras.standIns && bufferViews[extras.standIns.ends];
  return {
    positions,
    styles,
    along,
    lines: lines.view().slice(),
    lineRuns,
    triangles: triangles.view().slice(),
    triangleRuns,
    objects: objectView ? new Uint32Array(sliced(objectView)) : new Uint32Array(0),
    standIns: inkView ? decodeStandIns(extras.standIns!, new Int16Array(sliced(inkView))) : [],
    texts: extras.texts.map(([x, y, size, angleRad, anchor, weight, style, object, text]) => ({
      ...{ x, y, size, angleRad, anchor, weight, style, object, text },
    })),
  };
}
