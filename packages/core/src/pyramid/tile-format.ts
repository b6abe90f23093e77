import type { TextAnchor, TextMark } from '../drawing/model.ts';
import type { StandInJson, StandIns } from './stand-ins.ts';

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

export const FLOAT = 5126;
export const UNSIGNED_INT = 5125;
export const UNSIGNED_SHORT = 5123;
export const LINES = 1;
export const TRIANGLES = 4;

export interface Primitive {
  attributes: { POSITION: number; _ALONG?: number };
  indices?: number;
  mode: number;
  material: number;
  extras: { style: number };
}
export interface Accessor {
  bufferView: number;
  byteOffset: number;
  componentType: number;
  count: number;
  type: string;
  min?: number[];
  max?: number[];
}
export interface BufferView {
  buffer: number;
  byteOffset: number;
  byteLength: number;
}
/** x, y, size, angle, anchor, weight, style, object, text */
export type TextRow = [number, number, number, number, TextAnchor, TextMark['weight'], number, number, string];

export interface TileJson {
  accessors: Accessor[];
  bufferViews: BufferView[];
  meshes: { primitives: Primitive[] }[];
  extras: { objects: number; texts: TextRow[]; standIns?: StandInJson & { ends: number } };
}
