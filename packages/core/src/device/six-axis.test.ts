import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraAxes, eyeOf, planCamera, worldToScreen, type Camera } from '../camera/camera.ts';
import { directionOf, orientationOf, rollOf } from '../camera/orbit.ts';
import { toPerspective } from '../camera/projection.ts';
import { dot3 } from '../geometry/vec.ts';
import {
  moveBySixAxis,
  playTrace,
  roundTrace,
  sampleAt,
  shapedAxes,
  usualSixAxis,
  type SixAxisSample,
  type SixAxisSettings,
} from './six-axis.ts';

const viewport = { widthPx: 1000, heightPx: 700 };
const limits = { minUnitsPerPx: 1e-6, maxUnitsPerPx: 1e6 };
const target = { x: 4.1e8, y: 7.2e9, z: 3000 };
const start: Camera = { ...planCamera(target, 20), orientation: orientationOf({ bearingRad: 0.6, tiltRad: 0.5 }) };
const push = (...axes: number[]): SixAxisSample => ({
  axes: [0, 1, 2, 3, 4, 5].map((i) => axes[i] ?? 0) as unknown as SixAxisSample['axes'],
  buttons: [],
  timeMs: 0,
});
const move = (camera: Camera, sample: SixAxisSample, settings: Partial<SixAxisSettings> = {}, isHeld = false): Camera =>
  moveBySixAxis(
    camera,
    viewport,
    sample,
    { ...usualSixAxis, ...settings },
    { seconds: 0.2, pivot: target, limits, isHeld },
  );
const share = fc.double({ min: -1, max: 1, noNaN: true });

describe('pushes of a six-axis controller', () => {
  it('do nothing within the dead zone, all at their end, and grow steadily between', () => {
    fc.assert(
      fc.property(
        share,
        share,
        fc.double({ min: 0, max: 0.4, noNaN: true }),
        fc.double({ min: 1, max: 3, noNaN: true }),
        (a, b, deadZone, curve) => {
          const rate = (value: number): number => shapedAxes(push(value), { ...usualSixAxis, deadZone, curve })[0]!;
          if (Math.abs(a) <= deadZone) expect(rate(a)).toBe(0);
          expect(rate(-a)).toBeCloseTo(-rate(a), 12);
          expect(rate(1)).toBeCloseTo(1, 12);
          if (a < b) expect(rate(a)).toBeLessThanOrEqual(rate(b));
        },
      ),
    );
  });

  it('do nothing on axes that are switched off', () => {
    const axesOn = [true, false, true, false, true, false] as const;
    expect(shapedAxes(push(1, 1, 1, 1, 1, 1), { ...usualSixAxis, axesOn })).toEqual([1, 0, 1, 0, 1, 0]);
  });

  it('keep the horizon level where that is asked for, and the pivot where it is seen', () => {
    const way = { seconds: 0.2, pivot: target, limits, isHeld: false, isLevel: true };
    fc.assert(
      fc.property(fc.array(fc.tuple(share, share, share), { minLength: 1, maxLength: 30 }), (pushes) => {
        const end = pushes.reduce(
          (camera, turns) => moveBySixAxis(camera, viewport, push(0, 0, 0, ...turns), usualSixAxis, way),
          start,
        );
        expect(rollOf(end)).toBeCloseTo(0, 6);
        expect(worldToScreen(end, viewport, target).x).toBeCloseTo(500, 4);
      }),
    );
    // the same way round as without, as far as it can be
    const [free, level] = [false, true].map((isLevel) =>
      directionOf(
        moveBySixAxis(start, viewport, push(0, 0, 0, 0.3, 0.2, 0), usualSixAxis, { ...way, seconds: 0.01, isLevel }),
      ),
    ) as [ReturnType<typeof directionOf>, ReturnType<typeof directionOf>];
    const from = directionOf(start);
    expect(Math.sign(level.bearingRad - from.bearingRad)).toBe(Math.sign(free.bearingRad - from.bearingRad));
    expect(Math.sign(level.tiltRad - from.tiltRad)).toBe(Math.sign(free.tiltRad - from.tiltRad));
  });

  it('carry the object: it goes where the cap goes, and turns about its pivot, which stays', () => {
    const at = (camera: Camera) => worldToScreen(camera, viewport, target);
    const slid = at(move(start, push(1, 0, 0)));
    expect(slid.x).toBeGreaterThan(550);
    expect(slid.y).toBeCloseTo(350, 6);
    expect(at(move(start, push(0, 1, 0))).y).toBeLessThan(300);
    for (const camera of [start, toPerspective(start)])
      fc.assert(
        fc.property(share, share, share, (rx, ry, rz) => {
          const turned = move(camera, push(0, 0, 0, rx, ry, rz));
          expect(at(turned).x).toBeCloseTo(500, 5);
          expect(at(turned).y).toBeCloseTo(350, 5);
        }),
      );
    expect(move(start, push(0, 0, 1)).unitsPerPx).toBeLessThan(start.unitsPerPx);
    // a turn to the left about the upright brings what lies to the right nearer: seen from the model, one goes right
    const { right } = cameraAxes(start);
    expect(dot3(cameraAxes(move(start, push(0, 0, 0, 0, 1, 0))).right, right)).toBeLessThan(1);
  });

  it('carry me: the eye goes where the cap goes, and looks about from where it is', () => {
    const seen = toPerspective(start);
    const eye = eyeOf(seen, viewport);
    const { right, back } = cameraAxes(seen);
    const way = (camera: Camera, axis: { x: number; y: number; z: number }): number => {
      const now = eyeOf(camera, viewport);
      return dot3({ x: now.x - eye.x, y: now.y - eye.y, z: now.z - eye.z }, axis);
    };
    expect(way(move(seen, push(1), { carries: 'me' }), right)).toBeGreaterThan(100);
    expect(way(move(seen, push(0, 0, -1), { carries: 'me' }), back)).toBeLessThan(-100);
    const turned = move(seen, push(0, 0, 0, 0.3, 0.5, 0.1), { carries: 'me' });
    const now = eyeOf(turned, viewport);
    for (const axis of ['x', 'y', 'z'] as const) expect(Math.abs(now[axis] - eye[axis])).toBeLessThan(1e-4);
  });

  it('only twist what is held, and leave a view alone that is not pushed', () => {
    const twisted = move(start, push(0, 0, 0, 1, 1, 1), {}, true);
    expect(dot3(cameraAxes(twisted).back, cameraAxes(start).back)).toBeCloseTo(1, 12);
    expect(dot3(cameraAxes(twisted).up, cameraAxes(start).up)).toBeLessThan(0.99);
    expect(move(start, push(0, 0, 0, 1, 1, 0), {}, true)).toBe(start);
    expect(move(start, push(0.03, -0.05))).toBe(start);
  });

  it('keep the view’s axes at right angles over ten thousand steps', () => {
    let camera = start;
    for (let i = 0; i < 10_000; i++)
      camera = move(camera, push(0, 0, 0, Math.sin(i), Math.cos(i * 0.7), Math.sin(i * 0.3)));
    const { right, up, back } = cameraAxes(camera);
    expect(Math.abs(dot3(right, up))).toBeLessThan(1e-9);
    expect(Math.abs(dot3(up, back))).toBeLessThan(1e-9);
    expect(dot3(right, right)).toBeCloseTo(1, 9);
  });
});

describe('a recording', () => {
  const play = (): Camera[] =>
    playTrace(roundTrace, 20, start, (camera, sample, seconds) =>
      moveBySixAxis(camera, viewport, sample, usualSixAxis, { seconds, pivot: target, limits, isHeld: false }),
    );

  it('holds each sample until the next, and ends', () => {
    expect(sampleAt(roundTrace, 899)).toBe(roundTrace[0]);
    expect(sampleAt(roundTrace, 900)).toBe(roundTrace[1]);
    expect(sampleAt(roundTrace, 6601)).toBeNull();
    expect(sampleAt([], 0)).toBeNull();
  });

  it('gives the same views, bit for bit, whenever it is played', () => {
    const [one, other] = [play(), play()];
    expect(one.length).toBe(6600 / 20 + 1);
    expect(one).toEqual(other);
    // it goes somewhere, and turns
    expect(one.at(-1)!.orientation).not.toEqual(start.orientation);
  });
});
