import type { Affine } from '@gull-pane/core/geometry/affine';

/** Where a picture lies on its map. */
export interface GeoPlace {
  /** From px, x to the right and y down from the upper left corner, to the map's own coordinates. */
  readonly toMap: Affine;
  /** Metres a unit of the map; null for degrees. */
  readonly metresPerUnit: number | null;
}

/** Bytes a value of each type has (TIFF 6.0, 2; BigTIFF adds 16 to 18). */
const BYTES: Readonly<Record<number, number>> = {
  1: 1,
  2: 1,
  3: 2,
  4: 4,
  5: 8,
  11: 4,
  12: 8,
  13: 4,
  16: 8,
  17: 8,
  18: 8,
};
const [SHORT, LONG, FLOAT, DOUBLE, LONG8] = [3, 4, 11, 12, 16];
const MODEL_PIXEL_SCALE = 33_550;
const MODEL_TIEPOINT = 33_922;
const MODEL_TRANSFORMATION = 34_264;
const GEO_KEY_DIRECTORY = 34_735;
/** Keys of the directory (OGC 19-008r4). */
const [GT_MODEL_TYPE, GT_RASTER_TYPE, PROJ_LINEAR_UNITS] = [1024, 1025, 3076];
const GEOGRAPHIC = 2;
const PIXEL_IS_POINT = 2;
/** EPSG codes of units of length, metres each. */
const UNITS: Readonly<Record<number, number>> = { 9001: 1, 9002: 0.3048, 9003: 1200 / 3937, 9036: 1000 };
/** More values of a tag aren't read. */
const MOST_VALUES = 1 << 16;

/**
 * Where a GeoTIFF lies (OGC 19-008r4, "OGC GeoTIFF Standard"), by its first image.
 * @param bytes from the file's beginning on; tags beyond their end are passed over
 * @returns null if the file says nothing of it
 */
export function geoPlaceOf(bytes: Uint8Array): GeoPlace | null {
  const tags = tagsOf(bytes);
  if (!tags) return null;
  const keys = geoKeys(tags.get(GEO_KEY_DIRECTORY) ?? []);
  const toMap = placeOf(tags, keys.get(GT_RASTER_TYPE) === PIXEL_IS_POINT);
  if (!toMap || !Object.values(toMap).every(Number.isFinite)) return null;
  const isGeographic = keys.get(GT_MODEL_TYPE) === GEOGRAPHIC;
  return { toMap, metresPerUnit: isGeographic ? null : (UNITS[keys.get(PROJ_LINEAR_UNITS) ?? 9001] ?? 1) };
}

function placeOf(tags: ReadonlyMap<number, readonly number[]>, isPoint: boolean): Affine | null {
  // where px are points the coordinates are those of their middles
  const half = isPoint ? 0.5 : 0;
  const matrix = tags.get(MODEL_TRANSFORMATION);
  if (matrix && matrix.length >= 16) {
    const [a, c, e] = [matrix[0]!, matrix[1]!, matrix[3]!];
    const [b, d, f] = [matrix[4]!, matrix[5]!, matrix[7]!];
    return { a, b, c, d, e: e - half * (a + c), f: f - half * (b + d) };
  }
  const [scaleX, scaleY] = tags.get(MODEL_PIXEL_SCALE) ?? [];
  const [i, j, , x, y] = tags.get(MODEL_TIEPOINT) ?? [];
  if (!(scaleX! > 0 && scaleY! > 0) || y === undefined) return null;
  const [column, row] = [i! + half, j! + half];
  return { a: scaleX!, b: 0, c: 0, d: -scaleY!, e: x! - column * scaleX!, f: y + row * scaleY! };
}

function geoKeys(directory: readonly number[]): ReadonlyMap<number, number> {
  const keys = new Map<number, number>();
  for (let at = 4; at + 3 < directory.length; at += 4)
    if (directory[at + 1] === 0) keys.set(directory[at]!, directory[at + 3]!);
  return keys;
}

/** The tags of the first image by their numbers; only those with numbers as values. */
function tagsOf(bytes: Uint8Array): ReadonlyMap<number, readonly number[]> | null {
  if (bytes.length < 16) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isLittle = bytes[0] === 0x49;
  const version = view.getUint16(2, isLittle);
  const isBig = version === 43;
  if ((!isLittle && bytes[0] !== 0x4d) || (version !== 42 && !isBig)) return null;
  const offset = (at: number): number =>
    isBig ? Number(view.getBigUint64(at, isLittle)) : view.getUint32(at, isLittle);
  const [countBytes, entryBytes, inlineBytes] = isBig ? [8, 20, 8] : [2, 12, 4];
  const first = offset(isBig ? 8 : 4);
  if (first + countBytes > bytes.length) return null;
  const entries = isBig ? Number(view.getBigUint64(first, isLittle)) : view.getUint16(first, isLittle);
  const tags = new Map<number, readonly number[]>();
  for (let entry = 0; entry < entries; entry++) {
    const at = first + countBytes + entry * entryBytes;
    if (at + entryBytes > bytes.length) break;
    const type = view.getUint16(at + 2, isLittle);
    const count = isBig ? Number(view.getBigUint64(at + 4, isLittle)) : view.getUint32(at + 4, isLittle);
    const size = (BYTES[type] ?? 0) * count;
    if (size === 0 || count > MOST_VALUES) continue;
    const valuesAt = at + entryBytes - inlineBytes;
    const from = size <= inlineBytes ? valuesAt : offset(valuesAt);
    if (from + size > bytes.length) continue;
    const values = valuesOf(view, type, from, count, isLittle);
    if (values) tags.set(view.getUint16(at, isLittle), values);
  }
  return tags;
}

function valuesOf(view: DataView, type: number, from: number, count: number, isLittle: boolean): number[] | null {
  const read = {
    [SHORT]: (at: number) => view.getUint16(at, isLittle),
    [LONG]: (at: number) => view.getUint32(at, isLittle),
    [FLOAT]: (at: number) => view.getFloat32(at, isLittle),
    [DOUBLE]: (at: number) => view.getFloat64(at, isLittle),
    [LONG8]: (at: number) => Number(view.getBigUint64(at, isLittle)),
  }[type];
  return read ? Array.from({ length: count }, (_, i) => read(from + i * BYTES[type]!)) : null;
}
