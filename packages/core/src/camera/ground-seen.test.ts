import fc from 'fast-check';
import { expect, it } from 'vitest';
import { planCamera, worldToScreen, type Camera } from './camera.ts';
import { groundSeen } from './ground-seen.ts';
import { orientationOf } from './orbit.ts';
import { toPerspective } from './projection.ts';

const viewport = { widthPx: 900, heightPx: 600 };
const whole = { minX: -5000, minY: -3000, maxX: 5000, maxY: 3000 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

it('the ground that a view may see holds every place of it that is seen, in both projections', () => {
  const view = fc.record({
    bearingRad: number(0, 6.28),
    tiltRad: number(-1.5, 1.5),
    x: number(-6000, 6000),
    y: number(-4000, 4000),
    z: number(-500, 2500),
    unitsPerPx: number(0.5, 12),
    isParallel: fc.boolean(),
  });
  const place = fc.record({ x: number(whole.minX, whole.maxX), y: number(whole.minY, whole.maxY) });
  fc.assert(
    fc.property(view, fc.array(place, { minLength: 30, maxLength: 30 }), ({ x, y, z, isParallel, ...own }, places) => {
      const plan: Camera = { ...planCamera({ x, y, z }, own.unitsPerPx), orientation: orientationOf(own) };
      const camera = isParallel ? plan : toPerspective(plan);
      const part = groundSeen(camera, viewport, whole);
      for (const at of places) {
        const seen = worldToScreen(camera, viewport, { ...at, z: 0 });
        const isSeen = seen.x >= 0 && seen.x <= viewport.widthPx && seen.y >= 0 && seen.y <= viewport.heightPx;
        if (!isSeen) continue;
        expect(part).not.toBeNull();
        expect(at.x).toBeGreaterThanOrEqual(part!.minX - 1e-6);
        expect(at.x).toBeLessThanOrEqual(part!.maxX + 1e-6);
        expect(at.y).toBeGreaterThanOrEqual(part!.minY - 1e-6);
        expect(at.y).toBeLessThanOrEqual(part!.maxY + 1e-6);
      }
    }),
    { numRuns: 400 },
  );
});

it('is tight where a plan looks straight down, and nothing where it looks beside', () => {
  const camera = planCamera({ x: 1000, y: 500, z: 0 }, 2);
  expect(groundSeen(camera, viewport, whole)).toEqual({ minX: 100, minY: -100, maxX: 1900, maxY: 1100 });
  expect(groundSeen({ ...camera, target: { x: 90_000, y: 0, z: 0 } }, viewport, whole)).toBeNull();
});
