import type { WebGLRenderer } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { Tileset } from '@gull-pane/protocol/read-tileset';

/** What is needed of a scene. */
interface PaintedScene {
  readonly tileset: Tileset;
  readonly ground: Colour;
  body(tile: number): unknown;
  isAwaited(tile: number): boolean;
  want(picture: string, tiles: readonly number[]): void;
}

/** What painters of any kind of drawing do with the tiles of its scene. */
export abstract class TiledPainter<OwnScene extends PaintedScene> {
  /** @param id names the picture: what it wants, and what its pane hides or shows otherwise, is kept under it */
  protected constructor(
    protected readonly id: string,
    protected readonly scene: OwnScene,
    protected readonly renderer: WebGLRenderer,
  ) {}

  get pending(): number {
    return 0;
  }

  get ground(): Colour {
    return this.scene.ground;
  }

  want(tiles: readonly number[]): void {
    this.scene.want(this.id, tiles);
  }

  isThere(tile: number): boolean {
    return this.scene.body(tile) !== undefined;
  }

  isAwaited(tile: number): boolean {
    return this.scene.isAwaited(tile);
  }

  weightOf(tile: number): number {
    return this.scene.tileset.tiles[tile]!.weight;
  }
}
