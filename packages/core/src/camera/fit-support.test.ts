import fc from 'fast-check';
import { expect, it } from 'vitest';
import { planCamera, worldToScreen, type Camera } from './camera.ts';
import { FIT_MARGIN_PX } from './fit.ts';
import { fitSupport } from './fit-support.ts';
import { orientationOf } from './orbit.ts';
import { toPerspective } from './projection.ts';

const limits = { minUnitsPerPx: 1e-6, maxUnitsPerPx: 1e9 };
const covered = { widthPx: 272, heightPx: 200 };
const viewport = { widthPx: 960, heightPx: 620 };

const number = fc.double({ min: -4e4, max: 4e4, noNaN: true });
const clouds = fc
  .array(fc.tuple(number, number, number), { minLength: 2, maxLength: 24 })
  .map((points) => points.flatMap(([x, y, z]) => [412_000_000 + x, 7_208_000_000 + y, z]));
const directions = fc.record({
  bearingRad: fc.double({ min: 0, max: 6.28, noNaN: true }),
  tiltRad: fc.double({ min: -1.57, max: 1.57, noNaN: true }),
});
const looking = (direction: { bearingRad: number; tiltRad: number }): Camera => ({
  ...planCamera({ x: 0, y: 0, z: 0 }, 1),
  orientation: orientationOf(direction),
});
const placesOf = (camera: Camera, points: readonly number[]): { x: number; y: number }[] =>
  points.flatMap((x, i) =>
    i % 3 === 0 ? [worldToScreen(camera, viewport, { x, y: points[i + 1]!, z: points[i + 2]! })] : [],
  );

// coordinates of 7e9 have steps of 1e-6 units; the closest view here has about 1e-3 units a px
const SLACK_PX = 0.02;

it('nothing of what is fitted lies under the covered corner, and all of it within the margin', () => {
  fc.assert(
    fc.property(clouds, directions, (points, direction) => {
      const camera = fitSupport(looking(direction), { ...viewport, covered }, points, limits);
      for (const { x, y } of placesOf(camera, points)) {
        expect(Math.min(x, y)).toBeGreaterThanOrEqual(FIT_MARGIN_PX - SLACK_PX);
        expect(x).toBeLessThanOrEqual(viewport.widthPx - FIT_MARGIN_PX + SLACK_PX);
        expect(y).toBeLessThanOrEqual(viewport.heightPx - FIT_MARGIN_PX + SLACK_PX);
        const isUnder =
          x > viewport.widthPx - covered.widthPx + SLACK_PX && y > viewport.heightPx - covered.heightPx + SLACK_PX;
        expect(isUnder).toBe(false);
      }
    }),
  );
});

it('is the plain fit where the corner is free anyway, and never larger', () => {
  fc.assert(
    fc.property(clouds, directions, (points, direction) => {
      const plain = fitSupport(looking(direction), viewport, points, limits);
      const beside = fitSupport(looking(direction), { ...viewport, covered }, points, limits);
      const isFree = placesOf(plain, points).every(
        ({ x, y }) => x < viewport.widthPx - covered.widthPx || y < viewport.heightPx - covered.heightPx,
      );
      expect(beside.unitsPerPx).toBeGreaterThanOrEqual(plain.unitsPerPx * (1 - 1e-9));
      // what is too near in the hull's edges alone may still have to give way
      if (beside === plain) expect(isFree).toBe(true);
    }),
  );
});

it('gives way as little as it has to: a model in the upper left stays as it is, a full one grows into what is left', () => {
  const camera = looking({ bearingRad: 0, tiltRad: Math.PI / 2 });
  const triangle = [0, 0, 0, 960, 620, 0, 0, 620, 0];
  expect(fitSupport(camera, { ...viewport, covered }, triangle, limits)).toEqual(
    fitSupport(camera, viewport, triangle, limits),
  );
  const full = [0, 0, 0, 928, 0, 0, 928, 588, 0, 0, 588, 0];
  const beside = fitSupport(camera, { ...viewport, covered }, full, limits);
  // beside the corner 688 of 960 px are left, above it 420 of 620
  expect(beside.unitsPerPx).toBeCloseTo(928 / (688 - FIT_MARGIN_PX), 3);
});

it('in perspective stays left of the corner', () => {
  const camera = toPerspective(looking({ bearingRad: 0.4, tiltRad: 0.5 }));
  const box = [0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].flatMap((z) => [x * 9000, y * 7000, z * 6000])));
  const beside = fitSupport(camera, { ...viewport, covered }, box, limits);
  const plain = fitSupport(camera, viewport, box, limits);
  const rightmost = (own: Camera): number => Math.max(...placesOf(own, box).map(({ x }) => x));
  expect(rightmost(beside)).toBeLessThan(rightmost(plain));
});

it('in perspective leaves no more free than the corner needs', () => {
  fc.assert(
    fc.property(clouds, directions, (points, direction) => {
      const camera = toPerspective(looking(direction));
      const beside = fitSupport(camera, { ...viewport, covered }, points, limits);
      const strip = fitSupport(camera, { ...viewport, widthPx: viewport.widthPx - covered.widthPx }, points, limits);
      expect(beside.unitsPerPx).toBeLessThanOrEqual(strip.unitsPerPx * (1 + 1e-9));
      // where less than the strip was left free, nothing lies under the corner or outside the pane
      if (beside.unitsPerPx > strip.unitsPerPx * (1 - 1e-6)) return;
      for (const { x, y } of placesOf(beside, points)) {
        const isUnder =
          x > viewport.widthPx - covered.widthPx + SLACK_PX && y > viewport.heightPx - covered.heightPx + SLACK_PX;
        expect(isUnder).toBe(false);
        expect(Math.min(x, y)).toBeGreaterThanOrEqual(-SLACK_PX);
        expect(x).toBeLessThanOrEqual(viewport.widthPx + SLACK_PX);
        expect(y).toBeLessThanOrEqual(viewport.heightPx + SLACK_PX);
      }
    }),
  );
});
