import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { identityQuaternion, multiply, aboutAxis } from '../geometry/quaternion.ts';
import { dot3, type Vec3 } from '../geometry/vec.ts';
import { cameraAxes, planCamera, worldToScreen, type Camera } from './camera.ts';
import {
  directionOf,
  levelUp,
  orbitAxis,
  orbitLevel,
  orbitOpen,
  orientationOf,
  rollOf,
  type OrbitAxis,
} from './orbit.ts';

const [E, N] = [412_345_678.25, 7_208_234_567.5];
const viewport = { widthPx: 1000, heightPx: 700 };
const QUARTER = Math.PI / 2;
const small = fc.double({ min: -0.4, max: 0.4, noNaN: true });
const reach = fc.double({ min: -30_000, max: 30_000, noNaN: true });
const pivots = fc.record({ x: reach, y: reach, z: reach }).map(({ x, y, z }): Vec3 => ({ x: E + x, y: N + y, z }));
const directions = fc.record({
  bearingRad: fc.double({ min: 0, max: 6.28, noNaN: true }),
  tiltRad: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
});
const cameras = fc
  .tuple(directions, fc.double({ min: 0.01, max: 500, noNaN: true }))
  .map(([direction, unitsPerPx]): Camera => ({
    ...planCamera({ x: E, y: N, z: 4000 }, unitsPerPx),
    orientation: orientationOf(direction),
  }));

function expectOrthonormal(camera: Camera): void {
  const { right, up, back } = cameraAxes(camera);
  for (const [a, b] of [
    [right, up],
    [right, back],
    [up, back],
  ] as const)
    expect(Math.abs(dot3(a, b))).toBeLessThan(1e-12);
  for (const axis of [right, up, back]) expect(Math.abs(dot3(axis, axis) - 1)).toBeLessThan(1e-12);
}

function expectSamePlace(before: Camera, after: Camera, pivot: Vec3): void {
  const [a, b] = [worldToScreen(before, viewport, pivot), worldToScreen(after, viewport, pivot)];
  expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(1e-3);
}

describe('directions', () => {
  it('are those of the works: plan, four sides, from below', () => {
    expect(orientationOf({ bearingRad: 0, tiltRad: QUARTER })).toEqual(identityQuaternion);
    const axesAt = (bearingDeg: number, tiltDeg: number) =>
      cameraAxes({
        ...planCamera({ x: 0, y: 0, z: 0 }, 1),
        orientation: orientationOf({ bearingRad: (bearingDeg * Math.PI) / 180, tiltRad: (tiltDeg * Math.PI) / 180 }),
      });
    const expectAxis = (axis: Vec3, x: number, y: number, z: number): void => {
      expect([axis.x, axis.y, axis.z].map((value) => Math.round(value * 1e9) / 1e9 + 0)).toEqual([x, y, z]);
    };
    expectAxis(axesAt(0, 0).back, 0, -1, 0); // looking north, one stands in the south
    expectAxis(axesAt(0, 0).up, 0, 0, 1);
    expectAxis(axesAt(90, 0).back, -1, 0, 0); // looking east
    expectAxis(axesAt(90, 0).right, 0, -1, 0);
    expectAxis(axesAt(0, -90).back, 0, 0, -1);
    expectAxis(axesAt(90, 90).up, 1, 0, 0); // a plan with east at its top
  });

  it('come back from their orientation', () => {
    fc.assert(
      fc.property(directions, (direction) => {
        const back = directionOf({ orientation: orientationOf(direction) });
        expect(back.tiltRad).toBeCloseTo(direction.tiltRad, 9);
        expect(Math.cos(back.bearingRad - direction.bearingRad)).toBeCloseTo(1, 9);
        expect(rollOf({ orientation: orientationOf(direction) })).toBeCloseTo(0, 9);
      }),
    );
    for (const tiltRad of [QUARTER, -QUARTER]) {
      const back = directionOf({ orientation: orientationOf({ bearingRad: 2, tiltRad }) });
      expect(back.bearingRad).toBeCloseTo(2, 9);
      expect(back.tiltRad).toBeCloseTo(tiltRad, 9);
    }
  });
});

describe('orbits', () => {
  it('keep the pivot where it is seen and the axes square, over ten thousand steps', () => {
    const modes = [
      (camera: Camera, pivot: Vec3, a: number, b: number) => orbitLevel(camera, pivot, a, b),
      (camera: Camera, pivot: Vec3, a: number, b: number) => orbitOpen(camera, pivot, a, b),
      (camera: Camera, pivot: Vec3, a: number) => orbitAxis(camera, pivot, 'sight', a),
      (camera: Camera, pivot: Vec3, a: number) => orbitAxis(camera, pivot, 'x', a),
    ];
    for (const orbit of modes) {
      let camera: Camera = {
        ...planCamera({ x: E, y: N, z: 0 }, 20),
        orientation: orientationOf({ bearingRad: 1, tiltRad: 0.5 }),
      };
      const start = camera;
      const pivot = { x: E + 3000, y: N - 2000, z: 1500 };
      for (let i = 0; i < 10_000; i++) camera = orbit(camera, pivot, 0.03 * Math.sin(i), 0.02 * Math.cos(1.7 * i));
      expectOrthonormal(camera);
      expectSamePlace(start, camera, pivot);
    }
  });

  it('about any pivot keep it where it is seen', () => {
    const axes = fc.constantFrom<OrbitAxis>('across', 'upright', 'sight', 'x', 'y', 'z');
    fc.assert(
      fc.property(cameras, pivots, small, small, axes, (camera, pivot, a, b, axis) => {
        for (const after of [
          orbitLevel(camera, pivot, a, b),
          orbitOpen(camera, pivot, a, b),
          orbitAxis(camera, pivot, axis, a),
        ]) {
          expectOrthonormal(after);
          const [p, q] = [worldToScreen(camera, viewport, pivot), worldToScreen(after, viewport, pivot)];
          // the last digits of coordinates this large are a part of the smallest px
          expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-3 + 1e-5 / camera.unitsPerPx);
        }
      }),
    );
  });

  it('that are level never roll, and stop at straight above and below with their bearing', () => {
    fc.assert(
      fc.property(cameras, pivots, fc.array(fc.tuple(small, small), { maxLength: 60 }), (camera, pivot, steps) => {
        let view = camera;
        for (const [right, down] of steps) view = orbitLevel(view, pivot, right, down);
        expect(Math.abs(rollOf(view))).toBeLessThan(1e-7);
        const { bearingRad } = directionOf(view);
        for (const down of [10, -10]) {
          const end = orbitLevel(view, pivot, 0, down);
          expect(directionOf(end).tiltRad).toBeCloseTo((Math.sign(down) * Math.PI) / 2, 9);
          expect(Math.cos(directionOf(end).bearingRad - bearingRad)).toBeCloseTo(1, 7);
          const further = orbitLevel(end, pivot, 0, Math.sign(down));
          expect(Math.cos(directionOf(further).bearingRad - bearingRad)).toBeCloseTo(1, 7);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('follow the hand: right turns the near side to the right, down shows more of the top', () => {
    const camera: Camera = {
      ...planCamera({ x: 0, y: 0, z: 0 }, 1),
      orientation: orientationOf({ bearingRad: 0.3, tiltRad: 0.4 }),
    };
    const { right, back, up } = cameraAxes(camera);
    const near = { x: 100 * back.x, y: 100 * back.y, z: 100 * back.z };
    for (const orbit of [orbitLevel, orbitOpen]) {
      const before = worldToScreen(camera, viewport, near);
      expect(worldToScreen(orbit(camera, camera.target, 0.1, 0), viewport, near).x).toBeGreaterThan(before.x);
      expect(worldToScreen(orbit(camera, camera.target, 0, 0.1), viewport, near).y).toBeGreaterThan(before.y);
    }
    const tip = { x: 100 * right.x, y: 100 * right.y, z: 100 * right.z };
    const turned = worldToScreen(orbitAxis(camera, camera.target, 'sight', 0.1), viewport, tip);
    expect(turned.y).toBeLessThan(worldToScreen(camera, viewport, tip).y); // anticlockwise
    expect(up.z).toBeGreaterThan(0);
  });

  it('without limits go over the pole, and one step levels up again the shortest way', () => {
    fc.assert(
      fc.property(cameras, pivots, fc.double({ min: -3, max: 3, noNaN: true }), (camera, pivot, roll) => {
        const rolled = { ...camera, orientation: multiply(camera.orientation, aboutAxis({ x: 0, y: 0, z: 1 }, roll)) };
        expect(Math.cos(rollOf(rolled) - roll)).toBeCloseTo(1, 7);
        const level = levelUp(rolled, pivot);
        expect(Math.abs(rollOf(level))).toBeLessThan(1e-7);
        expect(directionOf(level).tiltRad).toBeCloseTo(directionOf(camera).tiltRad, 7);
      }),
    );
    let view: Camera = {
      ...planCamera({ x: 0, y: 0, z: 0 }, 1),
      orientation: orientationOf({ bearingRad: 0, tiltRad: 1.5 }),
    };
    for (let i = 0; i < 10; i++) view = orbitOpen(view, view.target, 0, 0.05);
    expect(Math.cos(rollOf(view))).toBeCloseTo(-1, 6); // beyond straight above the horizon hangs upside down
  });
});
