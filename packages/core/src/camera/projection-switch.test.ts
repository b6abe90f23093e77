import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, worldToScreen, type Camera } from './camera.ts';
import { orientationOf } from './orbit.ts';
import { ProjectionSwitch } from './projection-switch.ts';

const viewport = { widthPx: 1200, heightPx: 700 };
const middle = { x: 412_600_000, y: 7_208_400_000, z: 3000 };

const cameras = fc
  .record({
    bearingRad: fc.double({ min: 0, max: 6, noNaN: true }),
    tiltRad: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
    unitsPerPx: fc.double({ min: 0.5, max: 200, noNaN: true }),
  })
  .map(({ unitsPerPx, ...direction }): Camera => ({
    ...planCamera(middle, unitsPerPx),
    orientation: orientationOf(direction),
  }));
/** Another one at each look, as what lies in the middle of a view that changes. */
const wanderingFocus = () => {
  let calls = 0;
  return () => ({ ...middle, x: middle.x + 1700 * ++calls, z: middle.z - 900 * calls });
};

describe('switching the projection', () => {
  it('there and back is where one was, to the last digit, however often', () => {
    fc.assert(
      fc.property(cameras, fc.integer({ min: 1, max: 8 }), (camera, times) => {
        const projections = new ProjectionSwitch();
        const focus = wanderingFocus();
        let now = camera;
        for (let k = 0; k < 2 * times; k++) now = projections.next(now, viewport, focus);
        expect(now).toEqual(camera);
      }),
    );
  });

  it('through any fields of view and back to the one before is where one was', () => {
    const fovs = fc.array(fc.double({ min: 0.2, max: 1.9, noNaN: true }), { maxLength: 20 });
    fc.assert(
      fc.property(cameras, fovs, fc.double({ min: 0.3, max: 1.6, noNaN: true }), (camera, between, fovRad) => {
        const projections = new ProjectionSwitch();
        const focus = wanderingFocus();
        const start = projections.next(camera, viewport, focus, fovRad);
        let now = start;
        for (const fov of between) now = projections.next(now, viewport, focus, fov);
        expect(projections.next(now, viewport, focus, fovRad)).toEqual(start);
        expect(projections.next(start, viewport, focus)).toEqual(camera);
      }),
    );
  });

  it('keeps what is in focus as large and in its place', () => {
    fc.assert(
      fc.property(cameras, fc.double({ min: 0.2, max: 1.9, noNaN: true }), (camera, fovRad) => {
        const to = new ProjectionSwitch().next(camera, viewport, () => middle, fovRad);
        const [before, after] = [worldToScreen(camera, viewport, middle), worldToScreen(to, viewport, middle)];
        expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1e-3);
        expect(to.unitsPerPx / camera.unitsPerPx).toBeCloseTo(1, 9);
      }),
    );
  });
});
