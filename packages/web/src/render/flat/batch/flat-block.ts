import type { Vec3 } from '@gull-pane/core/geometry/vec';

/** Vertices as tiles hold them. */
export interface VertexColumns {
  /** x, y and, if there are three numbers a vertex, z, relative to the block's origin. */
  readonly positions: Float32Array;
  readonly numbersPerPosition: 2 | 3;
  readonly styles: Uint16Array;
  /** Place of each in the order of painting, in halves. */
  readonly orders: Float32Array;
  /** Length along the element; none if it has no dashes. */
  readonly along: Float32Array | null;
  /** x, y a vertex: how far it is moved aside for a width of 2, {@link MOST_ASIDE} at most; null for lines without width. */
  readonly offsets: Float32Array | null;
}

/** What lies together on a graphics processor: vertices, and lists of indices into them. */
export interface BlockPart {
  readonly columns: VertexColumns;
  readonly indices: readonly Uint32Array[];
}

/** Four bytes each: x, y, place in the order of painting in halves, style and slot, length along, way aside. */
export const WORDS_PER_VERTEX = 6;
/** Mitres are cut off there. */
export const MOST_ASIDE = 4;
const MOST_SHORT = 32_767;

/** What of a tile, or near a view, goes to graphics processors as one piece. Made once and never changed. */
export class FlatBlock {
  readonly vertices: number;
  /** Where each list begins among the block's indices, in the order of the parts. */
  readonly starts: readonly number[];
  readonly indices: number;
  readonly #leave = new Set<() => void>();

  constructor(
    readonly origin: Vec3,
    private readonly parts: readonly BlockPart[],
  ) {
    this.vertices = parts.reduce((sum, { columns }) => sum + columns.styles.length, 0);
    const starts: number[] = [];
    let indices = 0;
    for (const list of parts.flatMap((part) => part.indices)) {
      starts.push(indices);
      indices += list.length;
    }
    this.starts = starts;
    this.indices = indices;
  }

  /**
   * Writes {@link WORDS_PER_VERTEX} words a vertex.
   * @param slot under which the block's origin is found
   * @param into has room for all of them
   */
  packVertices(slot: number, into: ArrayBuffer): void {
    const words = new Uint32Array(into);
    const floats = new Float32Array(into);
    const shorts = new Int16Array(into);
    let at = 0;
    for (const { columns } of this.parts) {
      const { positions, numbersPerPosition, styles, orders, along, offsets } = columns;
      for (let i = 0; i < styles.length; i++) {
        floats[at] = positions[numbersPerPosition * i]!;
        floats[at + 1] = positions[numbersPerPosition * i + 1]!;
        words[at + 2] = 2 * orders[i]!;
        words[at + 3] = (styles[i]! << 16) | slot;
        floats[at + 4] = along ? along[i]! : 0;
        words[at + 5] = 0;
        if (offsets) {
          shorts[2 * at + 10] = Math.round((offsets[2 * i]! / MOST_ASIDE) * MOST_SHORT);
          shorts[2 * at + 11] = Math.round((offsets[2 * i + 1]! / MOST_ASIDE) * MOST_SHORT);
        }
        at += WORDS_PER_VERTEX;
      }
    }
  }

  /**
   * Copies indices.
   * @param start, count which of the block's
   * @param firstVertex number of the block's first vertex where it is placed
   * @param into takes them from `at` on
   */
  copyIndices(start: number, count: number, firstVertex: number, into: Uint32Array, at: number): void {
    let list = 0;
    for (const { columns, indices } of this.parts) {
      for (const numbers of indices) {
        const begin = this.starts[list++]!;
        const [from, to] = [Math.max(start - begin, 0), Math.min(start + count - begin, numbers.length)];
        for (let i = from; i < to; i++) into[at++] = firstVertex + numbers[i]!;
      }
      firstVertex += columns.styles.length;
    }
  }

  /** @param leave called when the block is given up */
  onDispose(leave: () => void): void {
    this.#leave.add(leave);
  }

  forget(leave: () => void): void {
    this.#leave.delete(leave);
  }

  dispose(): void {
    for (const leave of this.#leave) leave();
    this.#leave.clear();
  }
}
