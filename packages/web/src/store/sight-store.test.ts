import { expect, it } from 'vitest';
import type { StrayReport } from '@gull-pane/core/spatial/strays';
import { strayOffer } from './sight-store';

const viewport = { widthPx: 1000, heightPx: 500 };
const report = (width: number, height: number): StrayReport => ({
  strays: [7],
  nearest: 1,
  farthest: 1,
  histogram: [],
  main: { minX: 0, minY: 0, maxX: width, maxY: height },
});
const extents = (width: number, height: number) => ({ min: { x: 0, y: 0 }, max: { x: width, y: height } });

it.each([
  ['far to the east', report(99, 40), extents(1000, 40), true],
  ['not so far', report(101, 40), extents(1000, 40), false],
  ['far to the north', report(10, 49), extents(10, 500), true],
  ['high enough to fill a tenth of the pane', report(10, 51), extents(10, 500), false],
])(
  'an offer is made when the main body would take less than a tenth of the pane: %s',
  (_name, told, all, isOffered) => {
    expect(strayOffer(told, all, viewport) !== null).toBe(isOffered);
  },
);

it('no strays, nothing drawn or no pane: no offer', () => {
  expect(strayOffer({ ...report(1, 1), strays: [] }, extents(1000, 1000), viewport)).toBeNull();
  expect(strayOffer(report(1, 1), null, viewport)).toBeNull();
  expect(strayOffer(report(1, 1), extents(1000, 1000), { widthPx: 0, heightPx: 0 })).toBeNull();
  expect(strayOffer(null, extents(1, 1), viewport)).toBeNull();
});
