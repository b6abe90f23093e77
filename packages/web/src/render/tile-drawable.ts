import { Mesh } from 'three';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { StyleRun } from '@gull-pane/core/pyramid/tile-format';
import type { FineLines } from '../tiles/refiner';
import type { TileContent } from '../tiles/tile-content';
import { LineBody, indexed, still, vertexGeometry } from './line-body';
import type { DrawingMaterials } from './materials';
import { StandInBody } from './stand-in-body';
import { TileCosts } from './tile-share';

/** What the graphics processor holds of one tile. Made once; which runs are drawn is decided at each drawing. */
export class TileDrawable {
  readonly fills: Mesh | null;
  readonly body: LineBody;
  readonly standIns: StandInBody;
  readonly costs: TileCosts;
  #fine: { readonly body: LineBody; readonly of: FineLines } | null = null;

  constructor(
    readonly content: TileContent,
    readonly origin: Vec3,
    /** Around the tile and all below it, relative to its origin. */
    readonly box: Box2,
    private readonly materials: DrawingMaterials,
  ) {
    const { triangles, objects, positions } = content;
    // a tile's fills stand after its lines
    const orders = ordersOf(objects, positions.length / 3, triangles.length > 0 ? triangles[0]! : Infinity);
    const vertices = vertexGeometry(content, orders);
    this.body = new LineBody(content, orders, materials, vertices);
    this.standIns = new StandInBody(content.standIns, materials);
    this.costs = new TileCosts(content);
    this.fills = triangles.length > 0 ? still(new Mesh(indexed(vertices, triangles), [materials.fill])) : null;
  }

  /** The exact form of its lines, as fine as it was last asked for. */
  get fine(): FineLines | null {
    return this.#fine?.of ?? null;
  }

  setFine(fine: FineLines): void {
    this.#fine?.body.dispose();
    const { lines } = fine;
    const orders = ordersOf(lines.objects, lines.positions.length / 3, Infinity);
    this.#fine = { body: new LineBody(lines, orders, this.materials), of: fine };
  }

  /** The tile's lines. @param useFine whether the exact form takes the place of the coarse one, if it is there */
  lines(useFine: boolean): LineBody {
    return useFine && this.#fine ? this.#fine.body : this.body;
  }

  get triangleRuns(): readonly StyleRun[] {
    return this.content.triangleRuns;
  }

  dispose(): void {
    this.fills?.geometry.dispose();
    this.body.dispose();
    this.standIns.dispose();
    this.#fine?.body.dispose();
  }
}

/**
 * Place in the order of painting: twice the object's number, lines after the fill of the same object.
 * @param objects pairs of first vertex and object
 * @param firstFill vertex from which on fills stand
 */
function ordersOf(objects: Uint32Array, vertices: number, firstFill: number): Float32Array<ArrayBuffer> {
  const orders = new Float32Array(vertices);
  for (let i = 0; i < objects.length; i += 2) {
    const from = objects[i]!;
    orders.fill(2 * objects[i + 1]! + (from < firstFill ? 1 : 0), from, objects[i + 2] ?? vertices);
  }
  return orders;
}
