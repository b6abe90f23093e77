import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lighterShare } from './lighter-share';

/** A tile of things of such sizes; each weighs one, all stand-ins together weigh one. */
interface Tile {
  readonly sizes: readonly number[];
}
const tile = fc.record({ sizes: fc.array(fc.double({ min: 0.1, max: 1000, noNaN: true }), { minLength: 1 }) });

const weightOf =
  (tiles: readonly Tile[]) =>
  (at: number, smallest: number): number =>
    1 + tiles[at]!.sizes.filter((size) => size >= smallest).length;
const wishOf = (tiles: readonly Tile[], more: { from: number; upTo: number; enough: number }) => ({
  tiles: tiles.map((_, at) => at),
  largestOf: (at: number) => Math.max(...tiles[at]!.sizes),
  weightOf: weightOf(tiles),
  ...more,
});
const weigh = (tiles: readonly Tile[], chosen: readonly number[], smallest: number): number =>
  chosen.reduce((sum, at) => sum + weightOf(tiles)(at, smallest), 0);

describe('a lighter picture', () => {
  it('draws everything where that is no more than enough', () => {
    fc.assert(
      fc.property(fc.array(tile, { minLength: 1 }), fc.double({ min: 0.1, max: 10, noNaN: true }), (tiles, from) => {
        const { tiles: chosen, smallest } = lighterShare(wishOf(tiles, { from, upTo: 100, enough: Infinity }));
        expect(smallest).toBe(from);
        const isLeftOut = (at: number): boolean => !chosen.includes(at);
        for (const at of tiles.keys()) if (isLeftOut(at)) expect(Math.max(...tiles[at]!.sizes)).toBeLessThan(from);
      }),
    );
  });

  it('weighs no more than enough but for its first tile, and is no coarser than that needs', () => {
    fc.assert(
      fc.property(fc.array(tile, { minLength: 1 }), fc.integer({ min: 1, max: 60 }), (tiles, enough) => {
        const [from, upTo] = [1, 100];
        const { tiles: chosen, smallest } = lighterShare(wishOf(tiles, { from, upTo, enough }));
        expect(chosen[0]).toBe(0);
        if (chosen.length > 1) expect(weigh(tiles, chosen, smallest)).toBeLessThanOrEqual(enough);
        expect(smallest).toBeLessThanOrEqual(upTo);
        // one step finer would have been too much
        if (smallest > from) {
          const finer = smallest / Math.SQRT2;
          const all = [...tiles.keys()].filter((at) => at === 0 || Math.max(...tiles[at]!.sizes) >= finer);
          expect(weigh(tiles, all, finer)).toBeGreaterThan(enough);
        }
      }),
    );
  });
});
