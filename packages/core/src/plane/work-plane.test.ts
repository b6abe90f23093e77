import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraAxes, planCamera } from '../camera/camera.ts';
import { sightThrough } from '../camera/projection.ts';
import { aboutAxis } from '../geometry/quaternion.ts';
import { cross3, dot3, length3, sub3, unit3, type Vec3 } from '../geometry/vec.ts';
import {
  fromPlane,
  meetPlane,
  normalOf,
  offsetPlane,
  onPlane,
  planeByEdge,
  planeByFace,
  planeByPoints,
  planeOfView,
  straightAt,
  worldPlane,
  type WorkPlane,
} from './work-plane.ts';

const number = fc.integer({ min: -10_000, max: 10_000 });
const place = fc.record({ x: number, y: number, z: number });
const direction = place.filter((p) => length3(p) > 1).map(unit3);
const close = (a: Vec3, b: Vec3, digits = 6): void => {
  for (const k of ['x', 'y', 'z'] as const) expect(a[k]).toBeCloseTo(b[k], digits);
};
const isUpright = ({ x, y }: WorkPlane): void => {
  expect(length3(x)).toBeCloseTo(1, 12);
  expect(length3(y)).toBeCloseTo(1, 12);
  expect(dot3(x, y)).toBeCloseTo(0, 12);
};

describe('work planes', () => {
  it('by three points hold all three', () => {
    fc.assert(
      fc.property(place, place, place, (a, b, c) => {
        const plane = planeByPoints(a, b, c);
        if (!plane) {
          expect(length3(cross3(sub3(b, a), sub3(c, a)))).toBeCloseTo(0, 6);
          return;
        }
        isUpright(plane);
        close(plane.origin, a);
        expect(onPlane(plane, b).y).toBeCloseTo(0, 6);
        expect(onPlane(plane, c).z).toBeCloseTo(0, 6);
        expect(onPlane(plane, c).y).toBeGreaterThan(0);
      }),
    );
  });

  it('by a face stand level in x', () => {
    fc.assert(
      fc.property(place, direction, (origin, normal) => {
        const plane = planeByFace(origin, normal);
        isUpright(plane);
        close(normalOf(plane), normal, 9);
        expect(plane.x.z).toBe(0);
        expect(plane.y.z).toBeGreaterThanOrEqual(-1e-12);
      }),
    );
    expect(planeByFace({ x: 1, y: 2, z: 3 }, { x: 0, y: 0, z: 1 })).toMatchObject({ x: worldPlane.x, y: worldPlane.y });
  });

  it('tell places by their own axes, there and back', () => {
    fc.assert(
      fc.property(place, direction, place, number, (origin, normal, p, by) => {
        const plane = offsetPlane(planeByFace(origin, normal), by);
        close(fromPlane(plane, onPlane(plane, p)), p);
        expect(onPlane(plane, origin).z).toBeCloseTo(-by, 6);
      }),
    );
  });

  it('by an edge run along it, by the view stand as the screen', () => {
    expect(planeByEdge({ x: 0, y: 0, z: 0 }, { x: 0, y: 5, z: 0 }, { x: 0, y: 3, z: 2 })).toMatchObject({
      x: { x: 0, y: 1, z: 0 },
      y: { x: 0, y: 0, z: 1 },
    });
    expect(planeByEdge({ x: 0, y: 0, z: 0 }, { x: 0, y: 5, z: 0 }, { x: 0, y: 3, z: 0 })).toBeNull();
    const camera = { ...planCamera({ x: 0, y: 0, z: 0 }, 1), orientation: aboutAxis({ x: 1, y: 0, z: 0 }, 1) };
    const plane = planeOfView(camera, { x: 1, y: 2, z: 3 });
    close(normalOf(plane), cameraAxes(camera).back, 12);
  });

  it('are looked at straight, from the side that is seen', () => {
    fc.assert(
      fc.property(place, direction, direction, fc.integer({ min: 1, max: 3 }), (origin, normal, axis, turn) => {
        const plane = planeByFace(origin, normal);
        const camera = { ...planCamera(origin, 1), orientation: aboutAxis(axis, turn) };
        const before = dot3(cameraAxes(camera).back, normal);
        if (Math.abs(before) < 1e-9) return;
        const { back, up } = cameraAxes(straightAt(camera, plane));
        expect(dot3(back, normal)).toBeCloseTo(Math.sign(before), 9);
        close(up, plane.y, 9);
      }),
    );
  });

  it('are met by lines of sight', () => {
    const viewport = { widthPx: 800, heightPx: 600 };
    fc.assert(
      fc.property(place, direction, fc.integer({ min: 0, max: 800 }), (origin, normal, x) => {
        const plane = planeByFace(origin, normal);
        const camera = planCamera({ x: 5, y: 6, z: 7 }, 2);
        const met = meetPlane(plane, sightThrough(camera, viewport, { x, y: 100 }), true);
        if (Math.abs(normal.z) < 1e-3) return;
        expect(onPlane(plane, met!).z / Math.abs(1 + length3(sub3(met!, origin)))).toBeCloseTo(0, 9);
      }),
    );
    expect(meetPlane(worldPlane, { from: { x: 0, y: 0, z: 5 }, along: { x: 1, y: 0, z: 0 } }, true)).toBeNull();
    expect(meetPlane(worldPlane, { from: { x: 0, y: 0, z: 5 }, along: { x: 0, y: 0, z: 1 } }, false)).toBeNull();
  });
});
