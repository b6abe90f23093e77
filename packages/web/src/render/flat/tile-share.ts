import type { TileContent } from '../../tiles/tile-content';

/** What of a tile is drawn at a scale. Sizes in drawing units. */
export interface TileShare {
  /** Things smaller than this have stand-ins. */
  readonly smallest: number;
  /** Things of this size and more are there already, and so is what stands for others; else infinite. */
  readonly below: number;
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
  readonly #lines: number[] = [];
  readonly #standIns: number[] = [];
  readonly #children: number[] = [];
  readonly #triangles: number;

  constructor({ lineRuns, standIns, triangles }: TileContent) {
    this.#triangles = triangles.length / 3;
    const classOf = (sizeUpTo: number): number => {
      const known = this.#sizes.indexOf(sizeUpTo);
      if (known >= 0) return known;
      this.#lines.push(0);
      this.#standIns.push(0);
      return this.#sizes.push(sizeUpTo) - 1;
    };
    for (const { sizeUpTo, count } of lineRuns) this.#lines[classOf(sizeUpTo)]! += count / 2;
    for (const { sizeUpTo, child, count } of standIns.pieces) {
      if (child < 0) this.#standIns[classOf(sizeUpTo)]! += count / 2;
      else this.#children[child] = (this.#children[child] ?? 0) + count / 2;
    }
  }

  of(share: TileShare): number {
    let sum = this.#triangles;
    this.#sizes.forEach((sizeUpTo, index) => {
      if (isShared(sizeUpTo, share)) sum += this.#lines[index]!;
      if (isStandInShared(sizeUpTo, -1, share)) sum += this.#standIns[index]!;
    });
    this.#children.forEach((lines, child) => {
      if (isStandInShared(0, child, share)) sum += lines;
    });
    return sum;
  }
}
