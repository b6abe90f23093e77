import { startSolidTileWorker } from '../../tiles/start-solid-tile-worker';
import type { PaintedKind } from '../scene/painted-kind';
import { SolidPainter } from './solid-painter';
import { SolidScene } from './solid-scene';

export const solidKind: PaintedKind = {
  makeScene({ drawing, tileset, solid }, ground) {
    if (!solid) throw new TypeError('solidKind: a flat drawing has no table of objects');
    return new SolidScene(drawing, tileset, solid, ground, startSolidTileWorker);
  },
  makePainter(id, scene, renderer) {
    if (!(scene instanceof SolidScene)) throw new TypeError('solidKind: it paints solids only');
    return new SolidPainter(id, scene, renderer);
  },
};
