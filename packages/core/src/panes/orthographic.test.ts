import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitSupport } from '../camera/fit-support.ts';
import { planCamera, worldToScreen } from '../camera/camera.ts';
import { areasOf } from './tiling.ts';
import { firstAngleCameras, firstAngleTiling } from './orthographic.ts';

const pane = { widthPx: 500, heightPx: 350 };
const limits = { minUnitsPerPx: 1e-6, maxUnitsPerPx: 1e9 };
const place = fc.record({
  x: fc.double({ min: 412_590_000, max: 412_610_000, noNaN: true }),
  y: fc.double({ min: 7_208_390_000, max: 7_208_410_000, noNaN: true }),
  z: fc.double({ min: -20_000, max: 30_000, noNaN: true }),
});

describe('views laid out by first-angle projection', () => {
  it('show every point in line with itself in the views beside and below, and all of them in their panes', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 20 }), (points) => {
        const flat = points.flatMap(({ x, y, z }) => [x, y, z]);
        const views = firstAngleCameras(planCamera(points[0]!, 3), (camera) => fitSupport(camera, pane, flat, limits));
        for (const point of points) {
          const [front, left, top] = [views.front, views.left, views.top].map((camera) =>
            worldToScreen(camera, pane, point),
          ) as [{ x: number; y: number }, { x: number; y: number }, { x: number; y: number }];
          expect(Math.abs(front.x - top.x)).toBeLessThan(0.01);
          expect(Math.abs(front.y - left.y)).toBeLessThan(0.01);
          for (const { x, y } of [front, left, top]) {
            expect(x).toBeGreaterThan(0);
            expect(x).toBeLessThan(pane.widthPx);
            expect(y).toBeGreaterThan(0);
            expect(y).toBeLessThan(pane.heightPx);
          }
        }
      }),
    );
  });

  it('lie with the view from the left at the right, the one from above below', () => {
    const areas = areasOf(firstAngleTiling({ front: 'f', left: 'l', top: 't', free: 'x' }), {
      x: 0,
      y: 0,
      width: 1000,
      height: 700,
    });
    const at = (name: string) => areas.get(name)!;
    expect(at('l').x).toBeGreaterThan(at('f').x);
    expect(at('l').y).toBe(at('f').y);
    expect(at('t').y).toBeGreaterThan(at('f').y);
    expect(at('t').x).toBe(at('f').x);
  });
});
