import { BufferAttribute, BufferGeometry, LineSegments, Mesh, type Object3D } from 'three';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { DecodedTile, StyleRun } from '@gull-pane/core/pyramid/tile-format';
import { MeshBuilder, buildStrokes } from '@gull-pane/core/stroke/stroke-mesh';
import type { DrawingMaterials } from './materials';

/** What the graphics processor holds of one tile. Made once; which runs are drawn is decided at each drawing. */
export class TileDrawable {
  readonly fills: Mesh | null;
  readonly hairlines: LineSegments | null;
  /** Lines with width; built when the first of them is wide enough to be seen. */
  strokes: Mesh | null = null;
  strokeRuns: readonly StyleRun[] = [];
  /** Place of each vertex in the order of painting. */
  readonly orders: Float32Array<ArrayBuffer>;

  constructor(
    readonly content: DecodedTile,
    readonly origin: Vec3,
    private readonly materials: DrawingMaterials,
  ) {
    const { positions, styles, along, lines, triangles } = content;
    this.orders = ordersOf(content);
    const vertices = new BufferGeometry();
    vertices.setAttribute('position', new BufferAttribute(positions, 3));
    vertices.setAttribute('style', new BufferAttribute(styles, 1));
    vertices.setAttribute('along', new BufferAttribute(along, 1));
    vertices.setAttribute('order', new BufferAttribute(this.orders, 1));
    const share = (index: Uint32Array<ArrayBuffer>): BufferGeometry => {
      const geometry = new BufferGeometry();
      geometry.attributes = vertices.attributes;
      geometry.setIndex(new BufferAttribute(index, 1));
      return geometry;
    };
    this.fills = triangles.length > 0 ? still(new Mesh(share(triangles), [materials.fill])) : null;
    this.hairlines = lines.length > 0 ? still(new LineSegments(share(lines), [...materials.hairlines])) : null;
  }

  /** Makes the lines with width, if that hasn't been done. */
  buildStrokes(): void {
    if (this.strokes || this.content.lines.length === 0) return;
    const { content } = this;
    const builder = new MeshBuilder();
    const source = { ...content, low: null };
    this.strokeRuns = content.lineRuns.map((run) => {
      const start = builder.indices.length;
      buildStrokes(source, run, { shiftX: 0, shiftY: 0, clip: null }, builder);
      return { style: run.style, start, count: builder.indices.length - start };
    });
    this.strokes = still(new Mesh(meshGeometry(builder, content, this.orders), [...this.materials.strokes]));
  }

  dispose(): void {
    for (const object of [this.fills, this.hairlines, this.strokes]) object?.geometry.dispose();
  }
}

/** Place in the order of painting: twice the object's number, lines after the fill of the same object. */
function ordersOf({ objects, positions, triangles }: DecodedTile): Float32Array<ArrayBuffer> {
  const count = positions.length / 3;
  const orders = new Float32Array(count);
  const firstOfFills = triangles.length > 0 ? triangles[0]! : count; // a tile's fills stand after its lines
  for (let i = 0; i < objects.length; i += 2) {
    const from = objects[i]!;
    const to = objects[i + 2] ?? count;
    orders.fill(2 * objects[i + 1]! + (from < firstOfFills ? 1 : 0), from, to);
  }
  return orders;
}

/** A geometry of built vertices; style and order come from the vertices they were made of. */
function meshGeometry(builder: MeshBuilder, source: DecodedTile, orders: Float32Array): BufferGeometry {
  const geometry = new BufferGeometry();
  const from = builder.source.view();
  geometry.setAttribute('position', new BufferAttribute(builder.positions.view().slice(), 2));
  geometry.setAttribute('offset', new BufferAttribute(builder.offsets.view().slice(), 2));
  geometry.setAttribute('along', new BufferAttribute(builder.along.view().slice(), 1));
  geometry.setAttribute(
    'style',
    new BufferAttribute(
      Uint16Array.from(from, (vertex) => source.styles[vertex]!),
      1,
    ),
  );
  geometry.setAttribute(
    'order',
    new BufferAttribute(
      Float32Array.from(from, (vertex) => orders[vertex]!),
      1,
    ),
  );
  geometry.setIndex(new BufferAttribute(builder.indices.view().slice(), 1));
  return geometry;
}

/** Objects are placed by hand, never looked through by the renderer. */
export function still<T extends Object3D>(object: T): T {
  object.matrixAutoUpdate = false;
  object.matrixWorldAutoUpdate = false;
  object.frustumCulled = false;
  return object;
}
