import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aboutAxis, identityQuaternion } from '../geometry/quaternion.ts';
import { planCamera, screenToWorld, worldToScreen, type Camera, type ScreenPoint, type Viewport } from './camera.ts';
import { fitPoints, FIT_MARGIN_PX } from './fit.ts';
import { flightBetween } from './flight.ts';
import { frameCorners } from './frame.ts';
import { scaleLimitsFor } from './limits.ts';
import { centreAt, panBy } from './pan.ts';
import { formatScale, scaleDenominator, unitsPerPxAtScale } from './scale.ts';
import { zoomAbout } from './zoom.ts';

const extents = { min: { x: 412_000_000, y: 7_208_000_000, z: 0 }, max: { x: 412_600_000, y: 7_208_420_000, z: 0 } };
const limits = scaleLimitsFor(extents);
const viewport: Viewport = { widthPx: 1000, heightPx: 700 };

const double = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const unitsPerPx = double(-1.5, 2.5).map((power) => 10 ** power);
const targets = fc.record({ x: double(4.1e8, 4.2e8), y: double(7.19e9, 7.21e9), z: fc.constant(0) });
const twists = double(-Math.PI, Math.PI).map((angle) => aboutAxis({ x: 0, y: 0, z: 1 }, angle));
const cameras: fc.Arbitrary<Camera> = fc
  .tuple(targets, unitsPerPx, fc.oneof(fc.constant(identityQuaternion), twists))
  .map(([target, scale, orientation]) => ({ ...planCamera(target, scale), orientation }));
const screenPoints: fc.Arbitrary<ScreenPoint> = fc.record({ x: double(0, 1000), y: double(0, 700) });
const factors = double(-1, 1).map((power) => 10 ** power);

const apart = (a: ScreenPoint, b: ScreenPoint): number => Math.hypot(a.x - b.x, a.y - b.y);

describe('screen and world', () => {
  it('are inverse to each other', () => {
    fc.assert(
      fc.property(cameras, screenPoints, (camera, at) => {
        expect(apart(worldToScreen(camera, viewport, screenToWorld(camera, viewport, at)), at)).toBeLessThan(1e-3);
      }),
    );
  });

  it('put north at the top and east at the right', () => {
    const camera = planCamera({ x: 100, y: 200, z: 0 }, 2);
    expect(screenToWorld(camera, viewport, { x: 600, y: 250 })).toEqual({ x: 300, y: 400, z: 0 });
  });
});

describe('zoomAbout', () => {
  it('keeps the anchored world point within 0.001 px', () => {
    fc.assert(
      fc.property(cameras, screenPoints, factors, (camera, at, factor) => {
        const grabbed = screenToWorld(camera, viewport, at);
        const seen = worldToScreen(zoomAbout(camera, viewport, at, factor, limits), viewport, grabbed);
        expect(apart(seen, at)).toBeLessThan(1e-3);
      }),
    );
  });

  it('keeps the point within 0.01 px after 1,000 zooms about it, at every scale down to the limit', () => {
    const at = { x: 873.25, y: 118.75 };
    for (const scale of [limits.minUnitsPerPx, 0.0132, 0.2646, 132]) {
      let camera = planCamera({ x: 412_345_678.9, y: 7_208_234_567.8, z: 0 }, scale);
      const grabbed = screenToWorld(camera, viewport, at);
      for (let i = 0; i < 1000; i++)
        camera = zoomAbout(camera, viewport, at, i % 2 ? 1 / 1.2 : 1.2 ** ((i % 5) - 2), limits);
      for (let i = 0; i < 60; i++) camera = zoomAbout(camera, viewport, at, 1.5, limits);
      expect(camera.unitsPerPx).toBe(limits.minUnitsPerPx);
      expect(apart(worldToScreen(camera, viewport, grabbed), at)).toBeLessThan(0.01);
    }
  });

  it('undoes itself with the inverse factor', () => {
    fc.assert(
      fc.property(cameras, screenPoints, double(0.5, 2), (camera, at, factor) => {
        const there = zoomAbout(camera, viewport, at, factor, limits);
        fc.pre(there.unitsPerPx > limits.minUnitsPerPx && there.unitsPerPx < limits.maxUnitsPerPx);
        const back = zoomAbout(there, viewport, at, 1 / factor, limits);
        expect(back.unitsPerPx / camera.unitsPerPx).toBeCloseTo(1, 12);
        expect(apart(worldToScreen(back, viewport, camera.target), { x: 500, y: 350 })).toBeLessThan(1e-3);
      }),
    );
  });

  it('is felt as an end at a limit: the same camera comes back', () => {
    const closest = planCamera(extents.min, limits.minUnitsPerPx);
    expect(zoomAbout(closest, viewport, { x: 10, y: 10 }, 2, limits)).toBe(closest);
  });

  it('refuses factors that mean nothing', () => {
    const camera = planCamera(extents.min, 1);
    for (const factor of [0, -1, NaN, Infinity]) {
      expect(() => zoomAbout(camera, viewport, { x: 0, y: 0 }, factor, limits)).toThrow(/factor/);
    }
  });
});

describe('panBy and centreAt', () => {
  it('carry the grabbed point with the hand', () => {
    fc.assert(
      fc.property(cameras, screenPoints, screenPoints, (camera, from, to) => {
        const grabbed = screenToWorld(camera, viewport, from);
        const moved = panBy(camera, to.x - from.x, to.y - from.y);
        expect(apart(worldToScreen(moved, viewport, grabbed), to)).toBeLessThan(1e-3);
      }),
    );
  });

  it('bring a point to the middle', () => {
    fc.assert(
      fc.property(cameras, screenPoints, (camera, at) => {
        const grabbed = screenToWorld(camera, viewport, at);
        const seen = worldToScreen(centreAt(camera, viewport, at), viewport, grabbed);
        expect(apart(seen, { x: 500, y: 350 })).toBeLessThan(1e-3);
      }),
    );
  });
});

describe('frameCorners', () => {
  it('fills the pane with the frame in its tighter direction, middle to middle', () => {
    fc.assert(
      fc.property(cameras, screenPoints, screenPoints, (camera, a, b) => {
        fc.pre(Math.abs(a.x - b.x) > 5 && Math.abs(a.y - b.y) > 5 && camera.unitsPerPx > 10 * limits.minUnitsPerPx);
        const framed = frameCorners(camera, viewport, a, b, { minUnitsPerPx: 0, maxUnitsPerPx: Infinity });
        const corners = [a, b].map((p) => worldToScreen(framed, viewport, screenToWorld(camera, viewport, p)));
        const [p, q] = corners as [ScreenPoint, ScreenPoint];
        expect(apart({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 }, { x: 500, y: 350 })).toBeLessThan(0.02);
        const fill = Math.max(Math.abs(p.x - q.x) / 1000, Math.abs(p.y - q.y) / 700);
        expect(fill).toBeCloseTo(1, 4);
      }),
    );
  });

  it('takes a frame of no size for a slip', () => {
    const camera = planCamera(extents.min, 1);
    expect(frameCorners(camera, viewport, { x: 5, y: 5 }, { x: 6, y: 6 }, limits)).toBe(camera);
  });
});

describe('fitPoints', () => {
  it('lets the visible touch the margin in the tighter direction, under any twist', () => {
    const points = fc.array(fc.tuple(double(4.12e8, 4.126e8), double(7.208e9, 7.2084e9)), {
      minLength: 3,
      maxLength: 40,
    });
    fc.assert(
      fc.property(cameras, points, (camera, pairs) => {
        const flat = pairs.flatMap(([x, y]) => [x, y, 0]);
        const fitted = fitPoints(camera, viewport, flat, { minUnitsPerPx: 0, maxUnitsPerPx: Infinity });
        const seen = pairs.map(([x, y]) => worldToScreen(fitted, viewport, { x, y, z: 0 }));
        const free = Math.min(...seen.flatMap(({ x, y }) => [x, y, viewport.widthPx - x, viewport.heightPx - y]));
        fc.pre(fitted.unitsPerPx > 0.01);
        expect(free).toBeCloseTo(FIT_MARGIN_PX, 2);
      }),
    );
  });

  it('changes nothing for an empty drawing', () => {
    const camera = planCamera(extents.min, 1);
    expect(fitPoints(camera, viewport, [], limits)).toBe(camera);
  });
});

describe('flightBetween', () => {
  it('meets both ends exactly, moves evenly and takes 150 to 600 ms', () => {
    fc.assert(
      fc.property(cameras, targets, unitsPerPx, (from, target, scale) => {
        const to = { ...from, target, unitsPerPx: scale };
        const flight = flightBetween(from, to, viewport);
        expect(flight.at(0)).toBe(from);
        expect(flight.at(1)).toBe(to);
        expect(flight.durationMs).toBeGreaterThanOrEqual(150);
        expect(flight.durationMs).toBeLessThanOrEqual(600);
        // speed by the paper's own measure: what the viewer feels, pan over width and change of width over width
        const steps = Array.from({ length: 41 }, (_, i) => flight.at(i / 40));
        const speeds = steps.slice(1, -1).map((view, i) => {
          const before = steps[i]!;
          const w = (view.unitsPerPx + before.unitsPerPx) / 2;
          const pan = Math.hypot(view.target.x - before.target.x, view.target.y - before.target.y) / (w * 1000);
          return Math.hypot(2 * pan, (view.unitsPerPx - before.unitsPerPx) / w);
        });
        const fastest = Math.max(...speeds);
        fc.pre(fastest > 1e-3);
        for (const speed of speeds.slice(1)) expect(speed / fastest).toBeGreaterThan(0.5);
      }),
      { numRuns: 60 },
    );
  });
});

describe('scale', () => {
  it('writes scales as drawings do', () => {
    expect(formatScale(500)).toBe('1:500');
    expect(formatScale(12_345.6)).toBe('1:12 346');
    expect(formatScale(2.5)).toBe('1:2.5');
    expect(formatScale(0.05)).toBe('20:1');
  });

  it('goes to a denominator and back', () => {
    expect(scaleDenominator(planCamera(extents.min, unitsPerPxAtScale(50)))).toBeCloseTo(50, 12);
  });
});
