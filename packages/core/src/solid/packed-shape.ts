/**
 * Shapes that stand at several places are kept once, many in a file: a pack. Tiles say where in it a shape lies and where it
 * stands. In a pack as in tiles Y is up: (x, y, z) is written as (x, z, −y), about the middle of the shape.
 */

/** Where a shape lies in its pack, and how much of it there is. */
export interface ShapeEntry {
  /** Bytes from the beginning of the pack. */
  readonly at: number;
  readonly vertices: number;
  /** Three a triangle. */
  readonly corners: number;
  /** Two an edge. */
  readonly ends: number;
}

/** A shape about its middle, Z up. */
export interface PackedShape {
  /** x, y, z a vertex, drawing units. */
  readonly positions: Float32Array;
  /** x, y, z, 0 a vertex, −32,767 … 32,767. */
  readonly normals: Int16Array;
  readonly triangles: Uint32Array;
  /** x, y, z an end, two ends an edge. */
  readonly edgePositions: Float32Array;
  /** At each end the normals of both faces: x, y, z, 0 twice. */
  readonly edgeNormals: Int16Array;
}

/** Bytes that each part of a shape takes, in the order in which they follow each other. */
export function layoutOf({ vertices, corners, ends }: Omit<ShapeEntry, 'at'>): {
  readonly positions: number;
  readonly normals: number;
  readonly triangles: number;
  readonly edgePositions: number;
  readonly edgeNormals: number;
} {
  return {
    positions: 12 * vertices,
    normals: 8 * vertices,
    triangles: 4 * corners,
    edgePositions: 12 * ends,
    edgeNormals: 16 * ends,
  };
}

/** Numbers that say where a shape stands: a 3 × 3 row by row, then what is added. */
export const PLACE = 12;
/** The largest number of a normal in a pack, and in a tile. */
export const [PACKED_NORMAL, TILE_NORMAL] = [32_767, 127] as const;

/** Turns x, y, z from Y up to Z up. */
export function turnBack(values: Float32Array | Int16Array | Int8Array, stride: number): void {
  for (let i = 0; i + 2 < values.length; i += stride) {
    const up = values[i + 1]!;
    values[i + 1] = -values[i + 2]!;
    values[i + 2] = up;
  }
}

/** A file of shapes as it was read. */
export class ShapePack {
  readonly #bytes: ArrayBuffer;
  readonly #known = new Map<number, PackedShape>();

  constructor(bytes: Uint8Array) {
    // a copy of its own: shapes are turned where they lie
    this.#bytes = Uint8Array.from(bytes).buffer;
  }

  get byteLength(): number {
    return this.#bytes.byteLength;
  }

  /** @throws RangeError if the pack ends before the shape does */
  shape(entry: ShapeEntry): PackedShape {
    let shape = this.#known.get(entry.at);
    if (!shape) this.#known.set(entry.at, (shape = this.#read(entry)));
    return shape;
  }

  #read(entry: ShapeEntry): PackedShape {
    const bytes = layoutOf(entry);
    const positions = entry.at;
    const normals = positions + bytes.positions;
    const triangles = normals + bytes.normals;
    const edgePositions = triangles + bytes.triangles;
    const edgeNormals = edgePositions + bytes.edgePositions;
    const end = edgeNormals + bytes.edgeNormals;
    if (!(entry.at >= 0 && end <= this.#bytes.byteLength))
      throw new RangeError(
        `ShapePack: a shape at ${entry.at} is cut off: the pack has ${this.#bytes.byteLength} bytes`,
      );
    const shape = {
      positions: new Float32Array(this.#bytes, positions, bytes.positions / 4),
      normals: new Int16Array(this.#bytes, normals, bytes.normals / 2),
      triangles: new Uint32Array(this.#bytes, triangles, bytes.triangles / 4),
      edgePositions: new Float32Array(this.#bytes, edgePositions, bytes.edgePositions / 4),
      edgeNormals: new Int16Array(this.#bytes, edgeNormals, bytes.edgeNormals / 2),
    };
    turnBack(shape.positions, 3);
    turnBack(shape.normals, 4);
    turnBack(shape.edgePositions, 3);
    turnBack(shape.edgeNormals, 4);
    return shape;
  }
}

/** Puts points of a shape where it stands. @param m the place, {@link PLACE} numbers from `at` */
export function placePoints(
  from: ArrayLike<number>,
  m: Float64Array,
  at: number,
  to: Float32Array,
  first: number,
): void {
  const [a, b, c, d, e, f, g, h, k, x0, y0, z0] = m.subarray(at, at + PLACE) as unknown as number[] as Twelve;
  for (let i = 0; i < from.length; i += 3) {
    const [x, y, z] = [from[i]!, from[i + 1]!, from[i + 2]!];
    to[first + i] = a * x + b * y + c * z + x0;
    to[first + i + 1] = d * x + e * y + f * z + y0;
    to[first + i + 2] = g * x + h * y + k * z + z0;
  }
}

/** Turns normals of a shape as it stands, x, y, z, 0 each. */
export function placeNormals(from: Int16Array, m: Float64Array, at: number, to: Int8Array, first: number): void {
  const share = TILE_NORMAL / (PACKED_NORMAL * Math.hypot(m[at]!, m[at + 3]!, m[at + 6]!));
  const [a, b, c, d, e, f, g, h, k] = m.subarray(at, at + 9).map((value) => value * share) as unknown as Twelve;
  for (let i = 0; i < from.length; i += 4) {
    const [x, y, z] = [from[i]!, from[i + 1]!, from[i + 2]!];
    to[first + i] = Math.round(a * x + b * y + c * z);
    to[first + i + 1] = Math.round(d * x + e * y + f * z);
    to[first + i + 2] = Math.round(g * x + h * y + k * z);
  }
}

type Twelve = [number, number, number, number, number, number, number, number, number, number, number, number];
