import { startSolidTileWorker } from '../tiles/start-solid-tile-worker';
import type { Painter } from './painter';
import { SolidPicture } from './solid-picture';
import { SolidScene } from './solid-scene';

export const solidPainter: Painter = {
  makeScene({ drawing, tileset, solid }, ground) {
    if (!solid) throw new TypeError('solidPainter: a flat drawing has no table of objects');
    return new SolidScene(drawing, tileset, solid, ground, startSolidTileWorker);
  },
  makePicture(id, scene, renderer, texts) {
    if (!(scene instanceof SolidScene)) throw new TypeError('solidPainter: it draws solids only');
    return new SolidPicture(id, scene, renderer, texts);
  },
};
