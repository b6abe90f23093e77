import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { StyleRun } from '@gull-pane/core/pyramid/tile-format';
import { FlatBlock } from './batch/flat-block';
import { columnsOf, type InBlock } from './line-body';

/** Areas as they come from the workers. */
export interface FillContent {
  readonly positions: Float32Array<ArrayBuffer>;
  /** x, y a vertex: what single precision lost; absent in a tile's own coarse form. */
  readonly low?: Float32Array<ArrayBuffer>;
  readonly styles: Uint16Array<ArrayBuffer>;
  readonly triangles: Uint32Array<ArrayBuffer>;
  readonly triangleRuns: readonly StyleRun[];
}

/** Areas as they are drawn. */
export class FillBody {
  /**
   * @param orders place of each vertex in the order of painting
   * @param triangles where their indices are
   */
  constructor(
    readonly content: FillContent,
    readonly orders: Float32Array<ArrayBuffer>,
    readonly triangles: InBlock,
  ) {}

  /** Areas that share their vertices with nothing else. */
  static alone(content: FillContent, orders: Float32Array<ArrayBuffer>, origin: Vec3): FillBody {
    const columns = columnsOf({ ...content, along: null }, orders);
    const block = new FlatBlock(origin, [{ columns, indices: [content.triangles] }]);
    return new FillBody(content, orders, { block, start: 0 });
  }

  dispose(): void {
    this.triangles.block.dispose();
  }
}
