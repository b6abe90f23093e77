import type { Share } from '../picture/painter';

/** From one attempt to the next things of so much larger size give way. */
const COARSER = Math.SQRT2;

/** What is to be drawn of a flat drawing, and how light that is to be. Sizes in drawing units. */
export interface LighterWish {
  /** Tiles that are there, the most important first. */
  readonly tiles: readonly number[];
  /** Size of the largest thing of a tile. */
  readonly largestOf: (tile: number) => number;
  /** What drawing a tile costs. @param smallest what is smaller is drawn by stand-ins @param drawn all tiles that are drawn */
  readonly weightOf: (tile: number, smallest: number, drawn: ReadonlySet<number>) => number;
  /** Things of this size are drawn if that is possible … */
  readonly from: number;
  /** … and those of this size in any case. */
  readonly upTo: number;
  /** What all may weigh. */
  readonly enough: number;
}

/** The tiles that come to no more than enough; the smallest things give way to their stand-ins first. */
export function lighterShare({ tiles, largestOf, weightOf, from, upTo, enough }: LighterWish): Share {
  for (let smallest = from; ; smallest *= COARSER) {
    const chosen = withThingsOf(tiles, largestOf, smallest);
    const drawn = new Set(chosen);
    let weight = 0;
    let prefix = 0;
    for (const tile of chosen) {
      weight += weightOf(tile, smallest, drawn);
      if (weight > enough && prefix > 0) break;
      prefix++;
    }
    if (prefix === chosen.length || smallest * COARSER > upTo) return { tiles: chosen.slice(0, prefix), smallest };
  }
}

/** The tiles that have things of a size; the root always stands for all below it. */
export const withThingsOf = (
  tiles: readonly number[],
  largestOf: (tile: number) => number,
  smallest: number,
): number[] => tiles.filter((tile) => tile === 0 || largestOf(tile) >= smallest);
