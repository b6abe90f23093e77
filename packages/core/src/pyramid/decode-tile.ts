import { Growable } from '../geometry/growable.ts';
import { unpackGlb } from './glb.ts';
import { decodeStandIns } from './stand-ins.ts';
import {
  UNSIGNED_SHORT,
  LINES,
  type Primitive,
  type Accessor,
  type BufferView,
  type TileJson,
  type DecodedTile,
  type StyleRun,
} from './tile-format.ts';

/**
 * Reads a tile that `encodeTile` wrote. Not a general glTF reader: it knows that vertices of all primitives follow
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
      x,
      y,
      size,
      angleRad,
      anchor,
      weight,
      style,
      object,
      text,
    })),
  };
}
