import { startTileWorker } from '../../tiles/start-tile-worker';
import type { PaintedKind } from '../scene/painted-kind';
import { FlatPainter } from './flat-painter';
import { FlatScene } from './flat-scene';

export const flatKind: PaintedKind = {
  makeScene: ({ drawing, tileset }, ground) => new FlatScene(drawing, tileset, ground, startTileWorker),
  makePainter(id, scene, renderer, letters) {
    if (!(scene instanceof FlatScene)) throw new TypeError('flatKind: it paints flat drawings only');
    return new FlatPainter(id, scene, renderer, letters);
  },
};
