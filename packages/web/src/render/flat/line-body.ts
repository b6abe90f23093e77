import type { LinePiece } from '@gull-pane/core/pyramid/arrange';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { MeshBuilder, buildStrokes, type LineSource } from '@gull-pane/core/stroke/stroke-mesh';
import { FlatBlock, type VertexColumns } from './batch/flat-block';

/** Lines as they come from the workers. */
export interface LineContent {
  readonly positions: Float32Array<ArrayBuffer>;
  /** x, y a vertex: what single precision lost; absent in a tile's own coarse form. */
  readonly low?: Float32Array<ArrayBuffer>;
  readonly styles: Uint16Array<ArrayBuffer>;
  readonly along: Float32Array<ArrayBuffer>;
  readonly lines: Uint32Array<ArrayBuffer>;
  readonly lineRuns: readonly LinePiece[];
}

/** A list of indices within a block. */
export interface InBlock {
  readonly block: FlatBlock;
  /** Where the list begins. */
  readonly start: number;
}

/** Lines with width. */
export interface Strokes extends InBlock {
  /** One for each piece of lines. */
  readonly runs: readonly LinePiece[];
}

/** Lines as they are drawn: as hairlines and, once that is asked for, as triangles with width. */
export class LineBody {
  #strokes: Strokes | null = null;

  /**
   * @param orders place of each vertex in the order of painting
   * @param hairlines where their indices are
   */
  constructor(
    readonly content: LineContent,
    readonly orders: Float32Array<ArrayBuffer>,
    readonly hairlines: InBlock,
  ) {}

  /** Lines that share their vertices with nothing else. */
  static alone(content: LineContent, orders: Float32Array<ArrayBuffer>, origin: Vec3): LineBody {
    const block = new FlatBlock(origin, [{ columns: columnsOf(content, orders), indices: [content.lines] }]);
    return new LineBody(content, orders, { block, start: 0 });
  }

  /** Null until they are made. */
  get strokes(): Strokes | null {
    return this.#strokes;
  }

  /** What clipping and widening work on. */
  get source(): LineSource {
    return { ...this.content, low: this.content.low ?? null };
  }

  /** Makes the lines with width, if that hasn't been done. */
  buildStrokes(): void {
    if (this.#strokes || this.content.lines.length === 0) return;
    const builder = new MeshBuilder();
    const source = { ...this.content, low: null };
    const runs = this.content.lineRuns.map((run) => {
      const start = builder.indices.length;
      buildStrokes(source, run, { shiftX: 0, shiftY: 0, clip: null }, builder);
      return { ...run, start, count: builder.indices.length - start };
    });
    const styles = Uint16Array.from(builder.source.view(), (vertex) => this.content.styles[vertex]!);
    const orders = Float32Array.from(builder.source.view(), (vertex) => this.orders[vertex]!);
    const { columns, indices } = builtColumns(builder, styles, orders);
    const block = new FlatBlock(this.hairlines.block.origin, [{ columns, indices: [indices] }]);
    this.#strokes = { block, start: 0, runs };
  }

  dispose(): void {
    this.hairlines.block.dispose();
    this.#strokes?.block.dispose();
  }
}

/** Vertices as tiles hold them, for lines without width and for areas. */
export const columnsOf = (
  { positions, styles, along }: Pick<LineContent, 'positions' | 'styles'> & { readonly along: Float32Array | null },
  orders: Float32Array,
): VertexColumns => ({ positions, numbersPerPosition: 3, styles, orders, along, offsets: null });

/** Built vertices and their indices. */
export function builtColumns(
  { positions, offsets, along, indices }: MeshBuilder,
  styles: Uint16Array,
  orders: Float32Array,
): { readonly columns: VertexColumns; readonly indices: Uint32Array } {
  const columns: VertexColumns = {
    positions: positions.view().slice(),
    numbersPerPosition: 2,
    styles,
    orders,
    along: along.view().slice(),
    offsets: offsets.view().slice(),
  };
  return { columns, indices: indices.view().slice() };
}
