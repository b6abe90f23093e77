import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { RefinedFills } from '@gull-pane/core/pyramid/refine-fills';
import type { Fine } from '../../tiles/refiner';
import type { FineContent, TileContent } from '../../tiles/tile-content';
import type { TilePart } from '../../tiles/tile-worker';
import { FlatBlock } from './batch/flat-block';
import { FillBody } from './fill-body';
import { LineBody, columnsOf, type InBlock } from './line-body';
import { paneOf } from '../scene/scene';
import { TileCosts } from './tile-share';

/** Added to the place in the order of painting of what stands for many: it isn't hidden with one of them. */
const STANDS_FOR_MANY = 0.5;

/** An exact form, as fine as it was last asked for. */
interface Exact<Body> {
  readonly body: Body;
  readonly of: Fine<unknown>;
}

/** A tile as it is drawn. Made once; which runs are drawn is decided at each drawing. */
export class TileDrawable {
  /** Lines for the ink of what isn't drawn, two indices each. */
  readonly standIns: InBlock;
  readonly costs: TileCosts;
  readonly #lines: LineBody;
  readonly #fills: FillBody;
  /** By pane. */
  readonly #fineLines = new Map<string, Exact<LineBody>>();
  readonly #fineFills = new Map<string, Exact<FillBody>>();

  constructor(
    readonly content: TileContent,
    readonly origin: Vec3,
    /** Around the tile and all below it, relative to its origin. */
    readonly box: Box2,
  ) {
    const { triangles, objects, positions, lines, standIns } = content;
    // a tile's fills stand after its lines
    const orders = ordersOf(objects, positions.length / 3, triangles.length > 0 ? triangles[0]! : Infinity);
    const ordersOfMany = Float32Array.from(standIns.objects, (object) => 2 * object + 1 + STANDS_FOR_MANY);
    const block = new FlatBlock(origin, [
      { columns: columnsOf(content, orders), indices: [lines, triangles] },
      {
        columns: columnsOf({ ...standIns, along: null }, ordersOfMany),
        indices: [Uint32Array.from(standIns.styles, (_, vertex) => vertex)],
      },
    ]);
    const [ofLines, ofTriangles, ofStandIns] = block.starts as [number, number, number];
    this.#lines = new LineBody(content, orders, { block, start: ofLines });
    this.#fills = new FillBody(content, orders, { block, start: ofTriangles });
    this.standIns = { block, start: ofStandIns };
    this.costs = new TileCosts(content);
  }

  /** For what a pane's exact form of its lines or areas is good; null if there is none. */
  fine(part: TilePart, pane: string): Fine<unknown> | null {
    return (part === 'lines' ? this.#fineLines : this.#fineFills).get(pane)?.of ?? null;
  }

  /** @param pane for which it is: what is fine for one may be coarse, or elsewhere, for another */
  setFine(fine: Fine<FineContent | RefinedFills>, pane: string): void {
    const { content } = fine;
    const vertices = content.positions.length / 3;
    if ('triangles' in content) {
      this.#fineFills.get(pane)?.body.dispose();
      const body = FillBody.alone(content, ordersOf(content.objects, vertices, 0), this.origin);
      this.#fineFills.set(pane, { body, of: fine });
    } else {
      this.#fineLines.get(pane)?.body.dispose();
      const body = LineBody.alone(content, ordersOf(content.objects, vertices, Infinity), this.origin);
      this.#fineLines.set(pane, { body, of: fine });
    }
  }

  /** The tile's lines. @param fineFor the pane whose exact form takes the place of the coarse one, if there is any */
  lines(fineFor: string | null): LineBody {
    return (fineFor === null ? undefined : this.#fineLines.get(fineFor)?.body) ?? this.#lines;
  }

  /** The tile's areas; likewise. */
  fills(fineFor: string | null): FillBody {
    return (fineFor === null ? undefined : this.#fineFills.get(fineFor)?.body) ?? this.#fills;
  }

  /** A pane has gone, with all its pictures. */
  dropFine(pane: string): void {
    for (const fine of [this.#fineLines, this.#fineFills])
      for (const [owner, { body }] of fine) {
        if (paneOf(owner) !== pane) continue;
        body.dispose();
        fine.delete(owner);
      }
  }

  dispose(): void {
    this.#lines.dispose();
    for (const fine of [this.#fineLines, this.#fineFills]) for (const { body } of fine.values()) body.dispose();
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
