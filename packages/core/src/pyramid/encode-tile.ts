import { Growable } from '../geometry/growable.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { RELATIVE_CHORD_ERROR, flattenPath, within } from '../drawing/flatten.ts';
import { Op } from '../drawing/path.ts';
import { inDrawingOrder, type TileStyle } from './drawing-order.ts';
import { packGlb } from './glb.ts';
import { ItemKind, type ItemTable } from './items.ts';
import { simplify } from './simplify.ts';
import { encodeStandIns, type StandIns } from './stand-ins.ts';
import {
  FLOAT,
  UNSIGNED_INT,
  UNSIGNED_SHORT,
  LINES,
  TRIANGLES,
  type Primitive,
  type Accessor,
  type BufferView,
  type TextRow,
} from './tile-format.ts';

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
  const { x: originX, y: originY } = origin;
  const drawn = inDrawingOrder(table, items, styleOf);
  let isCoarse = false;
  const positions = new Growable(Float32Array);
  const along = new Growable(Float32Array);
  const indices = new Growable(Uint32Array);
  const objects = new Uint32Array(2 * drawn.length);
  const groups: Group[] = [];
  const courseOf = coursesAt(table, tolerance);
  let vertices = 0;
  for (let at = 0; at < drawn.length; at++) {
    const item = drawn[at]!;
    const kind = table.kind.at(item);
    const style = table.style.at(item);
    let group = groups.at(-1);
    if (group?.kind !== kind || group.style !== style) {
      const isDashed = kind === ItemKind.line && styleOf(style).isDashed;
      const begins = { vertex: vertices, index: indices.length, along: along.length };
      group = { kind, style, isDashed, ...begins };
      groups.push(group);
    }
    objects[2 * at] = vertices;
    objects[2 * at + 1] = table.object.at(item);
    const first = vertices - group.vertex;
    const { xy, start, count, kept } = courseOf(item);
    if (kept) isCoarse ||= kept.length < count || table.opsCount.at(item) > 0;
    let length = table.along.at(item);
    let vertex = 0;
    for (let i = 0; i < count; i++) {
      const x = xy[start + 2 * i]!;
      const y = xy[start + 2 * i + 1]!;
      if (group.isDashed && i > 0) {
        const dx = x - xy[start + 2 * i - 2]!;
        const dy = y - xy[start + 2 * i - 1]!;
        length += Math.sqrt(dx * dx + dy * dy);
      }
      if (kept && kept[vertex] !== i) continue;
      vertices++;
      positions.push(kept ? Math.round((x - originX) / step) * step : x - originX);
      positions.push(0);
      positions.push(-(kept ? Math.round((y - originY) / step) * step : y - originY));
      if (group.isDashed) along.push(length);
      if (kept && vertex > 0) {
        indices.push(first + vertex - 1);
        indices.push(first + vertex);
      }
      vertex++;
    }
  }
  const buffer = new BufferWriter();
  const places = positions.view();
  const positionView = buffer.add(places);
  const isShort = vertices <= 0xffff;
  const indexView = indices.length > 0 ? buffer.add(isShort ? new Uint16Array(indices.view()) : indices.view()) : -1;
  const alongView = along.length > 0 ? buffer.add(along.view()) : -1;
  const objectView = objects.length > 0 ? buffer.add(objects) : -1;
  const ink = encodeStandIns(standIns, origin, longer);
  const inkView = ink.ends.length > 0 ? buffer.add(ink.ends) : -1;

  const accessors: Accessor[] = [];
  const accessor = (entry: Accessor): number => accessors.push(entry) - 1;
  const primitives = groups.map((group, at): Primitive => {
    const next = groups[at + 1];
    const vertexEnd = next ? next.vertex : vertices;
    const primitive: Primitive = {
      attributes: { POSITION: accessor(positionAccessor(positionView, places, group.vertex, vertexEnd)) },
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

/** The points of an item; good until those of another are asked for. */
interface Course {
  readonly xy: ArrayLike<number>;
  readonly start: number;
  readonly count: number;
  /** Of a line those that are drawn; null where all are. */
  readonly kept: readonly number[] | null;
}

/** The courses of lines at a tolerance: curves by as few chords as will do, then without points that add nothing. */
function coursesAt(table: ItemTable, tolerance: number): (item: number) => Course {
  const points: number[] = [];
  const add = (x: number, y: number): void => {
    points.push(x, y);
  };
  const sink = { move: add, line: add, close: () => undefined };
  const closeness = within(tolerance / 2);
  return (item) => {
    let count = table.points.at(item);
    if (table.kind.at(item) !== ItemKind.line) return { ...table.pointsOf(item), count, kept: null };
    let xy: ArrayLike<number>;
    let start: number;
    if (tolerance === 0 || table.opsCount.at(item) === 0) ({ xy, start } = table.pointsOf(item));
    else {
      points.length = 0;
      flattenPath(table.definitionOf(item), sink, closeness);
      [xy, start, count] = [points, 0, points.length / 2];
    }
    return { xy, start, count, kept: simplify(xy, start, count, tolerance / 2) };
  };
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
  for (let axis = 0; axis < 3; axis++) {
    let [least, most] = [Infinity, -Infinity];
    for (let i = 3 * from + axis; i < 3 * to; i += 3) {
      if (positions[i]! < least) least = positions[i]!;
      if (positions[i]! > most) most = positions[i]!;
    }
    [min[axis], max[axis]] = [least, most];
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
