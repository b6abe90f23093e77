import type { WebGLRenderer } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import type { Picture, Scene } from './scene';
import type { TextPainter } from './text-painter';

/** What a scene is made of. */
export interface SceneContent {
  readonly drawing: DrawingDto;
  readonly tileset: TilesetJson;
  /** Of a solid: its objects. */
  readonly solid: SolidTable | null;
}

/** What draws one kind of drawing. */
export interface Painter {
  makeScene(content: SceneContent, ground: Colour): Scene;
  /** @param id names the pane: its wishes for tiles are kept apart */
  makePicture(id: string, scene: Scene, renderer: WebGLRenderer, texts: TextPainter): Picture;
}
