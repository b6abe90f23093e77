import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera } from '../camera/camera.ts';
import { tilesAtHand, tilesAtRest, tilesOfLargerThings } from './levels.ts';
import { selectTiles, type SelectableTile } from './select.ts';

const box = { centre: { x: 0, y: 0, z: 0 }, halfSize: { x: 10, y: 10, z: 10 } };
const exact = (largest: number, children: number[] = []): SelectableTile => ({
  ...box,
  largest,
  weight: 100,
  children,
});
const group = (children: number[]): SelectableTile => ({ ...box, largest: 20, weight: 0, children, isEmpty: true });
const coarse = (coarseness: number, child: number): SelectableTile => ({
  ...box,
  largest: 20,
  weight: 10,
  children: [child],
  coarseness,
});
/** A coarse form of everything; below it what a tile holds itself, and a child with a coarse form of its own. */
const tiles = [coarse(4, 1), group([2, 3]), exact(20), coarse(1, 4), exact(12)];
const view = { widthPx: 100, heightPx: 100 };
const at = (unitsPerPx: number): ReturnType<typeof planCamera> => planCamera({ x: 0, y: 0, z: 0 }, unitsPerPx);
const rules = { budget: 1e9, smallestPx: 0.1, errorPx: 0.5 };
const everything = (): boolean => true;

describe('selecting among levels', () => {
  it('takes coarse forms where they are good enough, and what they stand for where not', () => {
    expect(selectTiles(tiles, at(8), view, rules)).toEqual([0]);
    expect(selectTiles(tiles, at(2), view, rules)).toEqual([2, 3]);
    expect(selectTiles(tiles, at(1), view, rules)).toEqual([2, 4]);
  });

  it('leaves coarse forms out that are off further than may be where they stand', () => {
    const most = (errorPx: number, of: number[]) => ({
      ...rules,
      mostErrorPxOf: (tile: number): number => (of.includes(tile) ? errorPx : Infinity),
    });
    expect(selectTiles(tiles, at(8), view, most(0.4, [0]))).toEqual([2, 3]);
    expect(selectTiles(tiles, at(8), view, most(0.5, [0]))).toEqual([0]);
    expect(selectTiles(tiles, at(8), view, most(0.2, [0, 3]))).toEqual([2, 3]);
    expect(selectTiles(tiles, at(8), view, most(0.1, [0, 3]))).toEqual([2, 4]);
    expect(selectTiles(tiles, at(8), view, { ...most(4, [0]), errorPx: 0.2 })).toEqual([2, 3]);
  });
});

describe('what is drawn at rest', () => {
  const chosen = (enough: number, mostErrorPx: number, errorPx = 0.5): number[] =>
    tilesAtRest(tiles, at(1), view, { ...rules, errorPx }, { enough, mostErrorPx }).tiles;

  it('is what is good enough, however coarse it might be, where that is no burden', () => {
    expect(chosen(200, 1)).toEqual(selectTiles(tiles, at(1), view, rules));
    expect(chosen(200, 64)).toEqual([2, 4]);
  });

  it('is coarser where it would be too much, but never beyond a limit', () => {
    expect(chosen(150, 1)).toEqual([2, 3]);
    expect(chosen(50, 0.9)).toEqual([2, 4]);
    expect(chosen(50, 1)).toEqual([2, 3]);
    expect(chosen(50, 4)).toEqual([0]);
  });

  it('tells how far it may be off, and once all is there nothing finer is at hand', () => {
    for (const [enough, mostErrorPx] of [
      [200, 1],
      [150, 1],
      [50, 4],
    ] as const) {
      const rest = tilesAtRest(tiles, at(1), view, rules, { enough, mostErrorPx });
      const atHand = tilesAtHand(tiles, at(1), view, { ...rules, errorPx: rest.errorPx }, everything);
      expect(atHand).toEqual(rest.tiles);
    }
    expect(tilesAtRest(tiles, at(1), view, rules, { enough: 150, mostErrorPx: 1 }).errorPx).toBe(1);
  });

  it('is all of it where coarse forms aren’t wanted at all', () => {
    expect(chosen(1, 64, 0)).toEqual([2, 4]);
  });
});

describe('what is drawn at rest where tiles add to each other', () => {
  /** Of 20, 6, 3, 2 and half a px. */
  const nested = [exact(20, [1, 2]), exact(6, [3]), exact(3), exact(2, [4]), exact(0.5)];
  const chosen = (enough: number, mostPx: number, unitsPerPx = 1): number[] =>
    tilesOfLargerThings(nested, at(unitsPerPx), view, { budget: 1e9, smallestPx: 1 }, { enough, mostPx });

  it('is everything of a px where that is no burden', () => {
    expect(chosen(400, 4)).toEqual([0, 1, 2, 3]);
    expect(chosen(500, 4, 0.5)).toEqual([0, 1, 2, 3, 4]);
  });

  it('leaves the smallest out where it would be too much, never what is larger than a limit', () => {
    expect(chosen(300, 4)).toEqual([0, 1, 2]);
    expect(chosen(200, 4)).toEqual([0, 1]);
    expect(chosen(1, 4)).toEqual([0, 1]);
    expect(chosen(1, 2.5)).toEqual([0, 1, 2]);
  });

  it('never chooses less than a larger limit does, in any view', () => {
    const scales = fc.double({ min: 0.05, max: 10, noNaN: true });
    const weights = fc.integer({ min: 1, max: 600 });
    fc.assert(
      fc.property(scales, weights, weights, (unitsPerPx, a, b) => {
        const [less, more] = [Math.min(a, b), Math.max(a, b)].map((enough) => new Set(chosen(enough, 4, unitsPerPx)));
        expect([...less!].every((tile) => more!.has(tile))).toBe(true);
      }),
    );
  });
});

describe('what is cut away', () => {
  it('is neither selected nor waited for', () => {
    const isGone = (tile: number): boolean => tile === 3;
    expect(selectTiles(tiles, at(1), view, { ...rules, isGone })).toEqual([2]);
    expect(tilesAtHand(tiles, at(1), view, { ...rules, isGone }, (tile) => tile === 2)).toEqual([2]);
    expect(selectTiles(tiles, at(1), view, { ...rules, isGone: everything })).toEqual([]);
  });
});

describe('what is at hand', () => {
  const having =
    (...there: number[]) =>
    (tile: number): boolean =>
      there.includes(tile);

  it('is what was selected where all of it is there', () => {
    for (const scale of [8, 2, 1])
      expect(tilesAtHand(tiles, at(scale), view, rules, everything)).toEqual(
        selectTiles(tiles, at(scale), view, rules),
      );
  });

  it('has the coarse form until all that it stands for is there', () => {
    expect(tilesAtHand(tiles, at(1), view, rules, having(0))).toEqual([0]);
    expect(tilesAtHand(tiles, at(1), view, rules, having(0, 2))).toEqual([0]);
    expect(tilesAtHand(tiles, at(1), view, rules, having(0, 2, 3))).toEqual([2, 3]);
    expect(tilesAtHand(tiles, at(1), view, rules, having(0, 2, 3, 4))).toEqual([2, 4]);
  });

  it('is whatever is there where no coarse form is', () => {
    expect(tilesAtHand(tiles, at(1), view, rules, having(4))).toEqual([4]);
    expect(tilesAtHand(tiles, at(1), view, rules, having())).toEqual([]);
  });

  it('becomes coarser to keep a weight', () => {
    expect(tilesAtHand(tiles, at(1), view, { ...rules, budget: 150 }, everything)).toEqual([2, 3]);
    expect(tilesAtHand(tiles, at(1), view, { ...rules, budget: 50 }, everything)).toEqual([0]);
  });

  it('covers everything once, whatever is there', () => {
    /** Trees: a coarse form of each inner tile before its group, errors falling downwards. */
    const tree = fc
      .tuple(fc.integer({ min: 0, max: 3 }), fc.array(fc.boolean(), { minLength: 80, maxLength: 80 }), fc.nat(20))
      .map(([depth, there, allowed]) => {
        const all: SelectableTile[] = [];
        const add = (level: number): number => {
          const own = all.length;
          if (level === 0) {
            all.push(exact(20));
            return own;
          }
          all.push(coarse(level, own + 1), group([]));
          const children = [all.length];
          all.push(exact(20));
          for (let k = 0; k < 2; k++) children.push(add(level - 1));
          all[own + 1] = group(children);
          return own;
        };
        add(depth);
        return { all, isThere: (tile: number) => tile === 0 || there[tile % there.length]!, errorPx: allowed / 8 };
      });
    fc.assert(
      fc.property(tree, ({ all, isThere, errorPx }) => {
        const found = new Set(tilesAtHand(all, at(1), view, { ...rules, errorPx }, isThere));
        for (const tile of found) expect(isThere(tile)).toBe(true);
        /** How often each tile that holds shapes is drawn, by itself or by a form that stands for it. */
        const visit = (tile: number, above: number): void => {
          const { children, coarseness, isEmpty } = all[tile]!;
          const times = above + (found.has(tile) ? 1 : 0);
          if (coarseness === undefined && !isEmpty) expect(times).toBe(1);
          for (const child of children) visit(child, times);
        };
        visit(0, 0);
      }),
    );
  });
});
