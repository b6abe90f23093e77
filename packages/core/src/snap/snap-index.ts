import { Op, coordsOfOp, type Path } from '../drawing/path.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { shifted, type DetailItem } from '../pyramid/detail.ts';
import { piecesNear, type SnapPiece } from './snap-pieces.ts';

/** Numbers of an item's box: min x, min y, max x, max y. */
const BOX = 4;

/** A tile's exact lines, ready to be asked what lies near a place. */
export class SnapIndex {
  readonly #boxes: Float64Array;

  /** @param origin of the tile: what its items are relative to */
  constructor(
    private readonly items: readonly DetailItem[],
    private readonly origin: Vec2,
  ) {
    this.#boxes = new Float64Array(BOX * items.length);
    items.forEach(({ path }, index) => this.#boxes.set(reachOf(path), BOX * index));
  }

  /**
   * Lines and curves near a place, in drawing coordinates: the very doubles of the file.
   * @param at drawing coordinates
   * @param isShown whether a line takes part
   */
  near(at: Vec2, radius: number, isShown: (item: DetailItem) => boolean): SnapPiece[] {
    const [x, y] = [at.x - this.origin.x, at.y - this.origin.y];
    const boxes = this.#boxes;
    const pieces: SnapPiece[] = [];
    const back = { x: -this.origin.x, y: -this.origin.y };
    this.items.forEach((item, index) => {
      const box = BOX * index;
      if (x + radius < boxes[box]! || x - radius > boxes[box + 2]!) return;
      if (y + radius < boxes[box + 1]! || y - radius > boxes[box + 3]!) return;
      if (isShown(item)) pieces.push(...piecesNear(shifted(item.path, back), at, radius));
    });
    return pieces;
  }
}

/** A box that a path can't leave: around its control points, and around whole arcs. */
function reachOf({ ops, coords }: Path): [number, number, number, number] {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const add = (x: number, y: number, reach = 0): void => {
    minX = Math.min(minX, x - reach);
    minY = Math.min(minY, y - reach);
    maxX = Math.max(maxX, x + reach);
    maxY = Math.max(maxY, y + reach);
  };
  let at = 0;
  for (let i = 0; i < ops.length; i++) {
    const width = coordsOfOp[ops[i]!]!;
    if (ops[i] === Op.arc) {
      const reach = Math.hypot(coords[at + 2]!, coords[at + 3]!) + Math.hypot(coords[at + 4]!, coords[at + 5]!);
      add(coords[at]!, coords[at + 1]!, reach);
    } else for (let k = 0; k < width; k += 2) add(coords[at + k]!, coords[at + k + 1]!);
    at += width;
  }
  return [minX, minY, maxX, maxY];
}
