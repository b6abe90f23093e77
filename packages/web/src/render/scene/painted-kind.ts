import type { WebGLRenderer } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import type { PanePainter } from '../picture/painter';
import type { Scene } from './scene';

/** What a scene is made of. */
export interface SceneContent {
  readonly drawing: DrawingDto;
  readonly tileset: TilesetJson;
  /** Of a solid: its objects. */
  readonly solid: SolidTable | null;
}

/** A kind of drawing, as pictures are made of it. */
export interface PaintedKind {
  makeScene(content: SceneContent, ground: Colour): Scene;
  /**
   * @param id names the picture: its wishes for tiles are kept apart
   * @param letters where texts are written
   */
  makePainter(id: string, scene: Scene, renderer: WebGLRenderer, letters: CanvasRenderingContext2D): PanePainter;
}
