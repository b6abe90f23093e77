import type { WebGLRenderer } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import { flatKind } from './flat/flat-kind';
import type { Picture } from './picture/picture';
import { ProgressivePicture } from './picture/progressive-picture';
import type { PaintedKind, SceneContent } from './scene/painted-kind';
import type { Scene } from './scene/scene';
import type { SolidScene } from './solid/solid-scene';

const kinds: { flat: PaintedKind; solid: PaintedKind | null } = { flat: flatKind, solid: null };

/** Gets the code that draws solids, if it isn't there yet; to be waited for before the first solid is shown. */
export async function loadSolidPainter(): Promise<void> {
  kinds.solid ??= (await import('./solid/solid-kind')).solidKind;
}

function kindOf(kind: Scene['kind']): PaintedKind {
  const found = kinds[kind];
  if (!found) throw new Error(`kindOf: the code for ${kind} drawings hasn’t been loaded`);
  return found;
}

/** Everything of a drawing that its panes share. @throws Error if a solid’s code hasn’t been loaded */
export const makeScene = (content: SceneContent, ground: Colour): Scene =>
  kindOf(content.solid ? 'solid' : 'flat').makeScene(content, ground);

/**
 * A picture of a scene.
 * @param id names it: its wishes for tiles are kept apart; `1/lens` is one of pane 1
 * @param letters where texts are written
 */
export const makePicture = (
  id: string,
  scene: Scene,
  renderer: WebGLRenderer,
  letters: CanvasRenderingContext2D,
): Picture => new ProgressivePicture(kindOf(scene.kind).makePainter(id, scene, renderer, letters), renderer);

export const isSolid = (scene: Scene): scene is SolidScene => scene.kind === 'solid';
