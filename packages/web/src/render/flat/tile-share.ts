import { COARSE_UP_TO_PX, chordsFor } from '@gull-pane/core/pyramid/arrange';
import type { TileContent } from '../../tiles/tile-content';

/** What of a tile is drawn at a scale. Sizes in drawing units. */
export interface TileShare {
  /** Things smaller than this have stand-ins. */
  readonly smallest: number;
  /** Things of this size and more are there already, and so is what stands for others; else infinite. */
  readonly below: number;
  /** Of a device px. */
  readonly unitsPerPx: number;
  /** Whether a child of the tile is drawn itself. */
  readonly hasChild: (child: number) => boolean;
}

export const isShared = (sizeUpTo: number, { smallest, below }: TileShare): boolean =>
  sizeUpTo >= smallest && sizeUpTo < below;

/** Whether a stand-in is wanted. @param child −1 if it stands for the tile's own things */
export function isStandInShared(sizeUpTo: number, child: number, share: TileShare): boolean {
  if (share.below < Infinity) return false;
  return child < 0 ? sizeUpTo < share.smallest : !share.hasChild(child);
}

/** How many segments and triangles drawing a tile comes to, without looking at its pieces each time. */
export class TileCosts {
  /** Of the classes of size, largest first. */
  readonly #sizes: number[] = [];
  /** Of each class, as they are drawn up to the sizes of {@link COARSE_UP_TO_PX}, then larger. */
  readonly #lines: number[][] = [];
  readonly #standIns: number[] = [];
  readonly #children: number[] = [];
  readonly #triangles: number;

  constructor({ lineRuns, standIns, triangles }: TileContent) {
    this.#triangles = triangles.length / 3;
    const classOf = (sizeUpTo: number): number => {
      const known = this.#sizes.indexOf(sizeUpTo);
      if (known >= 0) return known;
      this.#lines.push(Array.from({ length: COARSE_UP_TO_PX.length + 1 }, () => 0));
      this.#standIns.push(0);
      return this.#sizes.push(sizeUpTo) - 1;
    };
    for (const piece of lineRuns) {
      const lines = this.#lines[classOf(piece.sizeUpTo)]!;
      [...COARSE_UP_TO_PX, Infinity].forEach((px, level) => (lines[level]! += chordsFor(piece, px).count / 2));
    }
    for (const { sizeUpTo, child, count } of standIns.pieces) {
      if (child < 0) this.#standIns[classOf(sizeUpTo)]! += count / 2;
      else this.#children[child] = (this.#children[child] ?? 0) + count / 2;
    }
  }

  of(share: TileShare): number {
    let sum = this.#triangles;
    this.#sizes.forEach((sizeUpTo, index) => {
      if (isShared(sizeUpTo, share)) sum += this.#lines[index]!.at(levelFor(sizeUpTo / share.unitsPerPx))!;
      if (isStandInShared(sizeUpTo, -1, share)) sum += this.#standIns[index]!;
    });
    this.#children.forEach((lines, child) => {
      if (isStandInShared(0, child, share)) sum += lines;
    });
    return sum;
  }
}

/** −1, the last, where chords are as fine as they come. */
const levelFor = (px: number): number => COARSE_UP_TO_PX.findIndex((most) => px <= most);
