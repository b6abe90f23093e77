import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { RefinedFills } from '@gull-pane/core/pyramid/refine-fills';
import type { Fine } from '../tiles/refiner';
import type { FineContent, TileContent } from '../tiles/tile-content';
import type { TilePart } from '../tiles/tile-worker';
import { FillBody } from './fill-body';
import { LineBody, vertexGeometry } from './line-body';
import type { DrawingMaterials } from './materials';
import { StandInBody } from './stand-in-body';
import { TileCosts } from './tile-share';

/** An exact form, as fine as it was last asked for. */
interface Exact<Body> {
  readonly body: Body;
  readonly of: Fine<unknown>;
}

/** What the graphics processor holds of one tile. Made once; which runs are drawn is decided at each drawing. */
export class TileDrawable {
  readonly standIns: StandInBody;
  readonly costs: TileCosts;
  readonly #lines: LineBody;
  readonly #fills: FillBody;
  #fineLines: Exact<LineBody> | null = null;
  #fineFills: Exact<FillBody> | null = null;

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
    this.#lines = new LineBody(content, orders, materials, vertices);
    this.#fills = new FillBody(content, orders, materials, vertices);
    this.standIns = new StandInBody(content.standIns, materials);
    this.costs = new TileCosts(content);
  }

  /** For what the exact form of its lines or areas that is there is good; null if there is none. */
  fine(part: TilePart): Fine<unknown> | null {
    return (part === 'lines' ? this.#fineLines : this.#fineFills)?.of ?? null;
  }

  setFine(fine: Fine<FineContent | RefinedFills>): void {
    const { content } = fine;
    const vertices = content.positions.length / 3;
    if ('triangles' in content) {
      this.#fineFills?.body.dispose();
      const orders = ordersOf(content.objects, vertices, 0);
      const along = new Float32Array(vertices);
      const geometry = vertexGeometry({ ...content, along }, orders);
      this.#fineFills = { body: new FillBody(content, orders, this.materials, geometry), of: fine };
    } else {
      this.#fineLines?.body.dispose();
      const orders = ordersOf(content.objects, vertices, Infinity);
      this.#fineLines = { body: new LineBody(content, orders, this.materials), of: fine };
    }
  }

  /** The tile's lines. @param wantsFine whether the exact form takes the place of the coarse one, if it is there */
  lines(wantsFine: boolean): LineBody {
    return (wantsFine ? this.#fineLines?.body : null) ?? this.#lines;
  }

  /** The tile's areas; likewise. */
  fills(wantsFine: boolean): FillBody {
    return (wantsFine ? this.#fineFills?.body : null) ?? this.#fills;
  }

  dispose(): void {
    this.#fills.dispose();
    this.#lines.dispose();
    this.standIns.dispose();
    this.#fineLines?.body.dispose();
    this.#fineFills?.body.dispose();
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
