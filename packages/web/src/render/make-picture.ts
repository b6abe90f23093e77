import type { WebGLRenderer } from 'three';
import { DrawingScene } from './drawing-scene';
import { PanePicture } from './pane-picture';
import type { Picture, Scene } from './scene';
import { SolidPicture } from './solid-picture';
import { SolidScene } from './solid-scene';
import type { TextPainter } from './text-painter';

/** What draws a scene in one pane. @param id names the pane: its wishes for tiles are kept apart */
export function makePicture(id: string, scene: Scene, renderer: WebGLRenderer, texts: TextPainter): Picture {
  if (scene instanceof SolidScene) return new SolidPicture(id, scene, renderer, texts);
  if (scene instanceof DrawingScene) return new PanePicture(id, scene, renderer, texts);
  throw new TypeError('makePicture: nothing draws such a scene');
}
