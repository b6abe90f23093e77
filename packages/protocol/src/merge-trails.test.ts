import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergeTrails } from './merge-trails.ts';
import type { TrailDto, TrailViewDto } from './trail.ts';

/** A linear trail with one view at each given x. */
const trail = (...places: number[]): TrailDto => ({
  views: places.map((x, index): TrailViewDto => ({
    x,
    y: 0,
    z: 0,
    unitsPerPx: 1,
    qx: 0,
    qy: 0,
    qz: 0,
    qw: 1,
    kind: 'jump',
    parent: index - 1,
    forward: index + 1 < places.length ? index + 1 : -1,
  })),
  current: places.length - 1,
});
const placesOf = ({ views }: TrailDto): number[] => views.map(({ x }) => x);

describe('the trails of several windows', () => {
  it('are the own one with the others beside it, marked', () => {
    const merged = mergeTrails(trail(1, 2, 3), [trail(1, 7, 8)]);
    expect(placesOf(merged)).toEqual([1, 2, 3, 7, 8]);
    expect(merged.current).toBe(2);
    expect(merged.views.map(({ parent }) => parent)).toEqual([-1, 0, 1, 0, 3]);
    expect(merged.views.map(({ forward }) => forward)).toEqual([1, 2, -1, 4, -1]);
    expect(merged.views.map(({ isElsewhere = false }) => isElsewhere)).toEqual([false, false, false, true, true]);
  });

  it('grow no more when they are merged again', () => {
    const once = mergeTrails(trail(1, 2), [trail(5, 6)]);
    expect(mergeTrails(once, [trail(5, 6), once])).toEqual(once);
  });

  it('lose nothing and stay trees, whatever they are', () => {
    const places = fc.array(fc.nat(12), { minLength: 1, maxLength: 10 }).map((all) => [...new Set(all)]);
    fc.assert(
      fc.property(places, fc.array(places, { maxLength: 4 }), (own, others) => {
        const merged = mergeTrails(
          trail(...own),
          others.map((each) => trail(...each)),
        );
        expect(new Set(placesOf(merged))).toEqual(new Set([...own, ...others.flat()]));
        expect(new Set(placesOf(merged)).size).toBe(merged.views.length);
        expect(placesOf(merged).slice(0, own.length)).toEqual(own);
        merged.views.forEach(({ parent, forward }, index) => {
          expect(parent).toBeLessThan(index);
          expect(index === 0 ? parent : Math.min(parent, 0)).toBe(index === 0 ? -1 : 0);
          if (forward >= 0) expect(merged.views[forward]!.parent).toBe(index);
        });
      }),
    );
  });

  it('are as many views as can be kept at most', () => {
    const many = (from: number): TrailDto => trail(...Array.from({ length: 200 }, (_, i) => from + i));
    expect(mergeTrails(many(0), [many(1000)]).views).toHaveLength(250);
  });
});
