import { BufferAttribute, BufferGeometry, LineSegments, Mesh, type Object3D } from 'three';
import type { LinePiece } from '@gull-pane/core/pyramid/arrange';
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
  readonly lineRuns: readonly LinePiece[];
}

/** Lines on the graphics processor, as hairlines and, once that is asked for, as triangles with width. */
export class LineBody {
  readonly hairlines: LineSegments | null;
  strokes: Mesh | null = null;
  /** The pieces of {@link strokes}, one for each piece of lines. */
  strokeRuns: readonly LinePiece[] = [];

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
      return { ...run, start, count: builder.indices.length - start };
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
