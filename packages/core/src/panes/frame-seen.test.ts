import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, worldToScreen, type Camera } from '../camera/camera.ts';
import { orientationOf } from '../camera/orbit.ts';
import { toPerspective } from '../camera/projection.ts';
import { twistTo } from '../camera/twist.ts';
import { frameOnGround } from './frame-seen.ts';
import { groundPlace, type TiedView } from './tie.ts';

const extents = { min: { x: 0, y: 0, z: -1000 }, max: { x: 60_000, y: 40_000, z: 9000 } };
const viewport = { widthPx: 640, heightPx: 480 };
const corners = [
  { x: 0, y: 0 },
  { x: 640, y: 0 },
  { x: 640, y: 480 },
  { x: 0, y: 480 },
];
const bearings = fc.double({ min: 0, max: 6.28, noNaN: true });

describe('the frame of a pane in a small plan', () => {
  it('of a plan has the pane’s corners, at any twist', () => {
    fc.assert(
      fc.property(bearings, fc.double({ min: 0.5, max: 90, noNaN: true }), (bearing, unitsPerPx) => {
        const camera = twistTo(planCamera({ x: 31_000, y: 12_000, z: 0 }, unitsPerPx), bearing);
        const frame = frameOnGround({ camera, viewport, kind: 'flat', extents })!;
        frame.forEach((place, k) => {
          const seen = worldToScreen(camera, viewport, { ...place, z: 0 });
          expect(Math.hypot(seen.x - corners[k]!.x, seen.y - corners[k]!.y)).toBeLessThan(1e-6);
        });
      }),
    );
  });

  it('of a model stands where the corners look at its ground, in either projection, about where the middle does', () => {
    fc.assert(
      fc.property(bearings, fc.integer({ min: 40, max: 89 }), fc.boolean(), (bearingRad, tilt, isPerspective) => {
        const parallel: Camera = {
          projection: 'parallel',
          target: { x: 31_000, y: 12_000, z: 700 },
          unitsPerPx: 20,
          orientation: orientationOf({ bearingRad, tiltRad: (tilt * Math.PI) / 180 }),
        };
        const view: TiedView = {
          camera: isPerspective ? toPerspective(parallel) : parallel,
          viewport,
          kind: 'solid',
          extents,
        };
        const frame = frameOnGround(view)!;
        frame.forEach((place, k) => {
          const seen = worldToScreen(view.camera, viewport, { ...place, z: 0 });
          expect(Math.hypot(seen.x - corners[k]!.x, seen.y - corners[k]!.y)).toBeLessThan(1e-4);
        });
        // the middle lies on one side of all four edges
        const middle = groundPlace(view);
        const sides = frame.map((a, k) => {
          const b = frame[(k + 1) % 4]!;
          return Math.sign((b.x - a.x) * (middle.y - a.y) - (b.y - a.y) * (middle.x - a.x));
        });
        expect(new Set(sides).size).toBe(1);
      }),
    );
  });

  it('is none where a corner looks over the horizon', () => {
    const camera: Camera = {
      projection: 'parallel',
      target: { x: 0, y: 0, z: 0 },
      unitsPerPx: 20,
      orientation: orientationOf({ bearingRad: 1, tiltRad: 0 }),
    };
    expect(frameOnGround({ camera, viewport, kind: 'solid', extents })).toBeNull();
  });
});
