import type { Colour } from '@gull-pane/core/drawing/model';
import { startTileWorker } from '../tiles/start-tile-worker';
import { DrawingScene } from './drawing-scene';
import { PanePicture } from './pane-picture';
import type { Painter, SceneContent } from './painter';
import type { Scene } from './scene';
import type { SolidScene } from './solid-scene';

const flatPainter: Painter = {
  makeScene: ({ drawing, tileset }, ground) => new DrawingScene(drawing, tileset, ground, startTileWorker),
  makePicture(id, scene, renderer, texts) {
    if (!(scene instanceof DrawingScene)) throw new TypeError('flatPainter: it draws flat drawings only');
    return new PanePicture(id, scene, renderer, texts);
  },
};

const painters: { flat: Painter; solid: Painter | null } = { flat: flatPainter, solid: null };

/** Gets the code that draws solids, if it isn't there yet; to be waited for before the first solid is shown. */
export async function loadSolidPainter(): Promise<void> {
  painters.solid ??= (await import('./solid-painter')).solidPainter;
}

function painterOf(kind: Scene['kind']): Painter {
  const painter = painters[kind];
  if (!painter) throw new Error(`painterOf: the code for ${kind} drawings hasn’t been loaded`);
  return painter;
}

/** Everything of a drawing that its panes share. @throws Error if a solid’s code hasn’t been loaded */
export const makeScene = (content: SceneContent, ground: Colour): Scene =>
  painterOf(content.solid ? 'solid' : 'flat').makeScene(content, ground);

/** What draws a scene in one pane. @param id names the pane: its wishes for tiles are kept apart */
export const makePicture: Painter['makePicture'] = (id, scene, renderer, texts) =>
  painterOf(scene.kind).makePicture(id, scene, renderer, texts);

export const isSolid = (scene: Scene): scene is SolidScene => scene.kind === 'solid';
