import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { worldToScreen } from '../camera/camera.ts';
import { aboutAxis, multiply } from '../geometry/quaternion.ts';
import { frameCamera, movedView, projectionOf, standingView } from './frame-camera.ts';
import { placementOf, type SheetFrame } from './sheet.ts';

const [EAST, NORTH] = [412_600_000, 7_208_400_000];
const number = (most: number): fc.Arbitrary<number> => fc.double({ min: -most, max: most, noNaN: true });
const orientation = fc
  .tuple(number(3), number(1.5))
  .map(([turn, tilt]) => multiply(aboutAxis({ x: 0, y: 0, z: 1 }, turn), aboutAxis({ x: 1, y: 0, z: 0 }, tilt)));
const rect = { leftMm: 20, topMm: 10, widthMm: 300, heightMm: 200 };
const frame = fc
  .record({ orientation, bearingRad: number(3), denominator: fc.constantFrom(1, 50, 200), isNear: fc.boolean() })
  .map(({ orientation: own, bearingRad, denominator, isNear }): SheetFrame => {
    const eye = isNear ? { eyeDistance: 400 * denominator } : {};
    const solid = { z: 4500, orientation: own, ...eye };
    return { ...rect, view: { x: EAST, y: NORTH, bearingRad, denominator, solid } };
  });

describe('a view of a model on paper', () => {
  it('shows places where its camera does', () => {
    fc.assert(
      fc.property(frame, fc.tuple(number(60), number(60), number(60)), (own, [dx, dy, dz]) => {
        const { denominator } = own.view;
        const place = { x: EAST + dx * denominator, y: NORTH + dy * denominator, z: 4500 + dz * denominator };
        const [x, y] = projectionOf(own, 'mm').toPaper(place);
        const seen = worldToScreen(frameCamera(own, 'mm'), { widthPx: rect.widthMm, heightPx: rect.heightMm }, place);
        expect(x - rect.leftMm).toBeCloseTo(seen.x, 6);
        expect(y - rect.topMm).toBeCloseTo(seen.y, 6);
      }),
    );
  });

  it('is at its scale: a length across the sight through its middle is 1:N on paper', () => {
    fc.assert(
      fc.property(frame, number(3), (own, angle) => {
        const { toPaper, right, up } = projectionOf(own, 'mm');
        const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
        const way = 30 * own.view.denominator;
        const [x, y] = toPaper({
          x: EAST + way * (right.x * cos + up.x * sin),
          y: NORTH + way * (right.y * cos + up.y * sin),
          z: 4500 + way * (right.z * cos + up.z * sin),
        });
        expect(Math.hypot(x - 170, y - 110)).toBeCloseTo(30, 5);
      }),
    );
  });

  it('is nearer for what is nearer, linearly over the paper', () => {
    fc.assert(
      fc.property(frame, (own) => {
        const { toPaper, back, right } = projectionOf(own, 'mm');
        const far = own.view.denominator;
        const at = (along: number, across: number): readonly [number, number, number] =>
          toPaper({
            x: EAST + far * (back.x * along + right.x * across),
            y: NORTH + far * (back.y * along + right.y * across),
            z: 4500 + far * (back.z * along + right.z * across),
          });
        expect(at(20, 0)[2]).toBeGreaterThan(at(0, 0)[2]);
        expect(at(0, 0)[2]).toBeGreaterThan(at(-20, 0)[2]);
        const [a, b] = [at(-50, -40), at(60, 70)];
        const [x, , nearness] = at(5, 15); // the middle of the two in space
        const share = (x - a[0]) / (b[0] - a[0]);
        expect(nearness).toBeCloseTo(a[2] + share * (b[2] - a[2]), 4);
      }),
    );
  });

  it('without a model is that of a plan', () => {
    fc.assert(
      fc.property(number(3), number(9000), number(9000), (bearingRad, dx, dy) => {
        const plan = { ...rect, view: { x: EAST, y: NORTH, bearingRad, denominator: 50 } };
        const [x, y] = projectionOf(plan, 'mm').toPaper({ x: EAST + dx, y: NORTH + dy, z: 0 });
        const [planX, planY] = placementOf(plan, 'mm').toPaper(EAST + dx, NORTH + dy);
        expect(x).toBeCloseTo(planX, 6);
        expect(y).toBeCloseTo(planY, 6);
      }),
    );
  });

  it('moves what is shown with the hand, and leaves it where it is while its frame is sized', () => {
    fc.assert(
      fc.property(frame, number(80), number(80), (own, right, down) => {
        const { target } = projectionOf(own, 'mm');
        const moved = { ...own, view: movedView(own, 'mm', right, down) };
        const [x, y] = projectionOf(moved, 'mm').toPaper(target);
        expect(x).toBeCloseTo(170 + right, 5);
        expect(y).toBeCloseTo(110 + down, 5);
        const sized = { ...own, leftMm: 40, topMm: 30, widthMm: 150, heightMm: 99 };
        const standing = { ...sized, view: standingView(own, sized, 'mm') };
        const [sameX, sameY] = projectionOf(standing, 'mm').toPaper(target);
        expect(sameX).toBeCloseTo(170, 5);
        expect(sameY).toBeCloseTo(110, 5);
      }),
    );
  });
});
