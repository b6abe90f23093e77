import type { FlatBlock } from './flat-block';

/** What is drawn with one program, in the order in which it is drawn. */
export const flatKinds = ['fill', 'hairline', 'dashedHairline', 'stroke', 'dashedStroke'] as const;
export type FlatKind = (typeof flatKinds)[number];

/** A stretch of a block's indices. */
export interface BlockRange {
  readonly block: FlatBlock;
  readonly start: number;
  readonly count: number;
}

/** What a picture draws, by kind. */
export class DrawLists {
  readonly #ranges: Readonly<Record<FlatKind, { block: FlatBlock; start: number; count: number }[]>> = {
    fill: [],
    hairline: [],
    dashedHairline: [],
    stroke: [],
    dashedStroke: [],
  };

  /** Adds a stretch; one that goes on where the last one ends is joined to it. */
  add(kind: FlatKind, block: FlatBlock, start: number, count: number): void {
    if (count === 0) return;
    const ranges = this.#ranges[kind];
    const last = ranges.at(-1);
    if (last?.block === block && last.start + last.count === start) last.count += count;
    else ranges.push({ block, start, count });
  }

  of(kind: FlatKind): readonly BlockRange[] {
    return this.#ranges[kind];
  }
}
