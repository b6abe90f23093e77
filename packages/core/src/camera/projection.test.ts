import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { add3, dot3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';
import { cameraAxes, eyeOf, planCamera, worldToScreen, type Camera } from './camera.ts';
import { FIT_MARGIN_PX } from './fit.ts';
import { orientationOf } from './orbit.ts';
import {
  FOV_LIMITS_RAD,
  fitPerspective,
  focusedAt,
  sightThrough,
  toParallel,
  toPerspective,
  zoomAboutPoint,
} from './projection.ts';

const [E, N] = [412_345_678.25, 7_208_234_567.5];
const viewport = { widthPx: 1000, heightPx: 700 };
const noLimits = { minUnitsPerPx: 1e-9, maxUnitsPerPx: 1e9 };
const directions = fc.record({
  bearingRad: fc.double({ min: 0, max: 6.28, noNaN: true }),
  tiltRad: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
});
const fovs = fc.double({ min: 0.1, max: 2, noNaN: true });
const cameras = fc
  .tuple(directions, fc.double({ min: 1, max: 50, noNaN: true }), fovs)
  .map(([direction, unitsPerPx, fovRad]): Camera =>
    toPerspective(
      { ...planCamera({ x: E, y: N, z: 4000 }, unitsPerPx), orientation: orientationOf(direction) },
      fovRad,
    ),
  );
const places = fc.record({
  x: fc.double({ min: 0, max: 1000, noNaN: true }),
  y: fc.double({ min: 0, max: 700, noNaN: true }),
});
const apart = (a: { x: number; y: number }, b: { x: number; y: number }): number => Math.hypot(a.x - b.x, a.y - b.y);

describe('switching the projection', () => {
  it('keeps the size of what lies at the depth of the target, within a tenth of a px', () => {
    fc.assert(
      fc.property(cameras, places, (camera, at) => {
        const { right, up } = cameraAxes(camera);
        const [dx, dy] = [(at.x - 500) * camera.unitsPerPx, (350 - at.y) * camera.unitsPerPx];
        const point = add3(camera.target, add3(scale3(right, dx), scale3(up, dy)));
        for (const other of [toParallel(camera), toPerspective(camera, 0.3)])
          expect(apart(worldToScreen(camera, viewport, point), worldToScreen(other, viewport, point))).toBeLessThan(
            0.01,
          );
      }),
    );
  });

  it('keeps the size of any point once the view is focused there, and focusing changes no picture', () => {
    const offset = fc.double({ min: -0.6, max: 0.6, noNaN: true });
    fc.assert(
      fc.property(cameras, places, offset, (camera, at, share) => {
        const { from, along } = sightThrough(camera, viewport, at);
        const reach = dot3(sub3(eyeOf(camera, viewport), camera.target), cameraAxes(camera).back);
        const point = add3(from, scale3(along, reach * (1 + share)));
        const focused = focusedAt(camera, viewport, point);
        expect(apart(worldToScreen(camera, viewport, point), at)).toBeLessThan(0.01);
        expect(apart(worldToScreen(focused, viewport, point), at)).toBeLessThan(0.01);
        expect(apart(worldToScreen(toParallel(focused), viewport, point), at)).toBeLessThan(0.01);
      }),
    );
  });

  it('holds the field of view to what an eye can look through', () => {
    const camera = planCamera({ x: 0, y: 0, z: 0 }, 1);
    expect(toPerspective(camera, 0).fovRad).toBe(FOV_LIMITS_RAD.min);
    expect(toPerspective(camera, 9).fovRad).toBe(FOV_LIMITS_RAD.max);
    expect(toParallel(toPerspective(camera))).toEqual(camera);
  });
});

describe('zooming about a point of the model', () => {
  it('keeps it where it is seen, in both projections, and never passes it', () => {
    const factors = fc.double({ min: 0.2, max: 50, noNaN: true });
    fc.assert(
      fc.property(cameras, places, factors, fc.boolean(), (perspective, at, factor, isParallel) => {
        const camera = isParallel ? toParallel(perspective) : perspective;
        const { from, along } = sightThrough(camera, viewport, at);
        const point = add3(from, scale3(along, 9000));
        const after = zoomAboutPoint(camera, point, factor, noLimits);
        expect(apart(worldToScreen(after, viewport, point), worldToScreen(camera, viewport, point))).toBeLessThan(0.01);
        const before = sub3(eyeOf(camera, viewport), point);
        const now = sub3(eyeOf(after, viewport), point);
        expect(dot3(now, before)).toBeGreaterThan(0);
        expect(Math.sqrt(dot3(before, before) / dot3(now, now)) / factor).toBeCloseTo(1, 4);
      }),
    );
    const camera = planCamera({ x: 0, y: 0, z: 0 }, 1);
    expect(zoomAboutPoint(camera, camera.target, 2, { minUnitsPerPx: 1, maxUnitsPerPx: 1 })).toBe(camera);
    expect(() => zoomAboutPoint(camera, camera.target, 0, noLimits)).toThrow(RangeError);
  });
});

describe('the tight fit in perspective', () => {
  const coordinate = fc.double({ min: -5000, max: 5000, noNaN: true });
  const clouds = fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 60 });

  it('touches the margin with the outermost points, at any field of view, and no nearer eye would do', () => {
    fc.assert(
      fc.property(cameras, clouds, (camera, cloud) => {
        // things, not points: the nearest one can't lie in the eye
        const { right: across } = cameraAxes(camera);
        const points = cloud.flatMap(([x, y, z]): Vec3[] => {
          const point = { x: E + x, y: N + y, z };
          return [point, add3(point, scale3(across, 50))];
        });
        const flat = points.flatMap(({ x, y, z }) => [x, y, z]);
        const fitted = fitPerspective(camera, viewport, flat, noLimits);
        const seen = points.map((point) => worldToScreen(fitted, viewport, point));
        const [left, right] = [Math.min(...seen.map(({ x }) => x)), Math.max(...seen.map(({ x }) => x))];
        const [top, bottom] = [Math.min(...seen.map(({ y }) => y)), Math.max(...seen.map(({ y }) => y))];
        const m = FIT_MARGIN_PX;
        // everything is inside, and one direction touches both its sides
        expect(left).toBeGreaterThan(m - 0.5);
        expect(right).toBeLessThan(1000 - m + 0.5);
        expect(top).toBeGreaterThan(m - 0.5);
        expect(bottom).toBeLessThan(700 - m + 0.5);
        const touchesX = left < m + 0.5 && right > 1000 - m - 0.5;
        const touchesY = top < m + 0.5 && bottom > 700 - m - 0.5;
        expect(touchesX || touchesY).toBe(true);
        expect(fitted.orientation).toEqual(camera.orientation);
      }),
    );
  });

  it('stays as it is with nothing to see, and keeps its scale about a single point', () => {
    const camera = toPerspective(planCamera({ x: 0, y: 0, z: 0 }, 3));
    expect(fitPerspective(camera, viewport, [], noLimits)).toBe(camera);
    const single = fitPerspective(camera, viewport, [10, 20, 30], noLimits);
    expect(single.unitsPerPx).toBeCloseTo(3, 12);
    expect(single.target).toEqual({ x: 10, y: 20, z: 30 });
  });
});
