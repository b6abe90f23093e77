import { BufferAttribute, BufferGeometry, LineSegments, Mesh, type Object3D } from 'three';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { StyleRun } from '@gull-pane/core/pyramid/tile-format';
import { MeshBuilder, buildStrokes, type LineSource } from '@gull-pane/core/stroke/stroke-mesh';
import type { DrawingMaterials } from './materials';

/** Lines as they come from the workers. */
export interface LineContent {
  readonly positions: Float32Array<ArrayBuffer>;
  /** x, y a vertex: what single precision lost; absent in a tile's own coarse form. */
  readonly low?: Float32Array<ArrayBuffer>;
  readonly styles: Uint16Array<ArrayBuffer>;
  readonly along: Float32Array<ArrayBuffer>;
  readonly lines: Uint32Array<ArrayBuffer>;
  readonly lineRuns: readonly StyleRun[];
}

/** Lines on the graphics processor, as hairlines and, once that is asked for, as triangles with width. */
export class LineBody {
  readonly hairlines: LineSegments | null;
  strokes: Mesh | null = null;
  /** The runs of {@link strokes}, one for each run of lines. */
  strokeRuns: readonly StyleRun[] = [];

  /** @param orders place of each vertex in the order of painting */
  constructor(
    readonly content: LineContent,
    readonly orders: Float32Array<ArrayBuffer>,
    private readonly materials: DrawingMaterials,
    vertices = vertexGeometry(content, orders),
  ) {
    this.hairlines =
      content.lines.length > 0
        ? still(new LineSegments(indexed(vertices, content.lines), [...materials.hairlines]))
        : null;
  }

  #pieces: readonly LinePiece[] | null = null;

  /** The runs in short pieces, each with its box: what lies outside a view needn't be drawn. */
  get pieces(): readonly LinePiece[] {
    this.#pieces ??= piecesOf(this.content);
    return this.#pieces;
  }

  /** What clipping and widening work on. */
  get source(): LineSource {
    return { ...this.content, low: this.content.low ?? null };
  }

  /** Makes the lines with width, if that hasn't been done. */
  buildStrokes(): void {
    if (this.strokes || this.content.lines.length === 0) return;
    const builder = new MeshBuilder();
    const source = { ...this.content, low: null };
    this.strokeRuns = this.content.lineRuns.map((run) => {
      const start = builder.indices.length;
      buildStrokes(source, run, { shiftX: 0, shiftY: 0, clip: null }, builder);
      return { style: run.style, start, count: builder.indices.length - start };
    });
    const columns = {
      styles: Uint16Array.from(builder.source.view(), (vertex) => this.content.styles[vertex]!),
      orders: Float32Array.from(builder.source.view(), (vertex) => this.orders[vertex]!),
    };
    this.strokes = still(new Mesh(builtGeometry(builder, columns.styles, columns.orders), [...this.materials.strokes]));
  }

  dispose(): void {
    this.hairlines?.geometry.dispose();
    this.strokes?.geometry.dispose();
  }
}

/** A stretch of a run with the box of its lines, relative to the tile's origin. */
export interface LinePiece extends StyleRun, Box2 {}

/** Indices of a piece: short enough to lie together, long enough that there are few. */
const INDICES_PER_PIECE = 256;

function piecesOf({ positions, lines, lineRuns }: LineContent): LinePiece[] {
  const pieces: LinePiece[] = [];
  for (const { style, start, count } of lineRuns) {
    for (let from = start; from < start + count; from += INDICES_PER_PIECE) {
      const to = Math.min(from + INDICES_PER_PIECE, start + count);
      let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
      for (let i = from; i < to; i++) {
        const x = positions[3 * lines[i]!]!;
        const y = positions[3 * lines[i]! + 1]!;
        if (x < minX) minX = x;
        if (x > maxX) maxX = x;
        if (y < minY) minY = y;
        if (y > maxY) maxY = y;
      }
      pieces.push({ style, start: from, count: to - from, minX, minY, maxX, maxY });
    }
  }
  return pieces;
}

/** The vertices that lines and fills of a tile share. */
export function vertexGeometry(
  { positions, styles, along }: Pick<LineContent, 'positions' | 'styles' | 'along'>,
  orders: Float32Array<ArrayBuffer>,
): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setAttribute('style', new BufferAttribute(styles, 1));
  geometry.setAttribute('along', new BufferAttribute(along, 1));
  geometry.setAttribute('order', new BufferAttribute(orders, 1));
  return geometry;
}

/** A geometry over the same vertices with indices of its own. */
export function indexed(vertices: BufferGeometry, index: Uint32Array<ArrayBuffer>): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.attributes = vertices.attributes;
  geometry.setIndex(new BufferAttribute(index, 1));
  return geometry;
}

/** A geometry of built vertices. */
export function builtGeometry(
  { positions, offsets, along, indices }: MeshBuilder,
  styles: Uint16Array<ArrayBuffer>,
  orders: Float32Array<ArrayBuffer>,
): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions.view().slice(), 2));
  geometry.setAttribute('offset', new BufferAttribute(offsets.view().slice(), 2));
  geometry.setAttribute('along', new BufferAttribute(along.view().slice(), 1));
  geometry.setAttribute('style', new BufferAttribute(styles, 1));
  geometry.setAttribute('order', new BufferAttribute(orders, 1));
  geometry.setIndex(new BufferAttribute(indices.view().slice(), 1));
  return geometry;
}

/** Objects are placed by hand, never looked through by the renderer. */
export function still<T extends Object3D>(object: T): T {
  object.matrixAutoUpdate = false;
  object.matrixWorldAutoUpdate = false;
  object.frustumCulled = false;
  return object;
}
