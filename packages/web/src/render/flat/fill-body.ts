import { Mesh, type BufferGeometry } from 'three';
import type { StyleRun } from '@gull-pane/core/pyramid/tile-format';
import { indexed, still } from './line-body';
import type { DrawingMaterials } from './materials';

/** Areas as they come from the workers. */
export interface FillContent {
  readonly positions: Float32Array<ArrayBuffer>;
  /** x, y a vertex: what single precision lost; absent in a tile's own coarse form. */
  readonly low?: Float32Array<ArrayBuffer>;
  readonly styles: Uint16Array<ArrayBuffer>;
  readonly triangles: Uint32Array<ArrayBuffer>;
  readonly triangleRuns: readonly StyleRun[];
}

/** Areas on the graphics processor. */
export class FillBody {
  readonly mesh: Mesh | null;

  /** @param orders place of each vertex in the order of painting */
  constructor(
    readonly content: FillContent,
    readonly orders: Float32Array<ArrayBuffer>,
    materials: DrawingMaterials,
    vertices: BufferGeometry,
  ) {
    const { triangles } = content;
    this.mesh = triangles.length > 0 ? still(new Mesh(indexed(vertices, triangles), [materials.fill])) : null;
  }

  dispose(): void {
    this.mesh?.geometry.dispose();
  }
}
