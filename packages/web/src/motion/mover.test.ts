import { beforeEach, describe, expect, it } from 'vitest';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { flightBetween } from '@gull-pane/core/camera/flight';
import { flightMotion } from '@gull-pane/core/motion/flight-motion';
import type { Motion } from '@gull-pane/core/motion/motion';
import { pushMotion } from '@gull-pane/core/motion/push-motion';
import type { StepKind } from '@gull-pane/core/trail/trail';
import { Mover } from './mover';

const viewport = { widthPx: 800, heightPx: 600 };
let nowMs: number;
let camera: Camera;
let left: (StepKind | null)[];
let mover: Mover;
beforeEach(() => {
  nowMs = 0;
  camera = planCamera({ x: 0, y: 0, z: 0 }, 1);
  left = [];
  mover = new Mover({
    now: () => nowMs,
    camera: () => camera,
    show: (moment) => (camera = moment.camera),
    rest: (leaves) => left.push(leaves),
  });
});

/** East by a unit a ms until it is ended. @param told of how it ended */
const eastward = (told: boolean[] = []): Motion => ({
  at: (now, _, frameMs) => ({ camera: { ...now, target: { ...now.target, x: now.target.x + frameMs } } }),
  leaves: 'drag',
  onEnd: (isInterrupted) => told.push(isInterrupted),
});
const frame = (ms: number): boolean => {
  nowMs += ms;
  return mover.advance();
};

describe('the mover', () => {
  it('runs one motion; another one ends it, and what it leaves is on the trail', () => {
    const told: boolean[] = [];
    const [first, second] = [eastward(told), eastward()];
    mover.start(first);
    expect(frame(20)).toBe(true);
    mover.start(second);
    expect([told, left]).toEqual([[true], ['drag']]);
    mover.end(first); // it isn't on any more
    expect(mover.motion).toBe(second);
    frame(20);
    expect(camera.target.x).toBe(40);
    mover.end();
    expect(frame(20)).toBe(false);
    expect(camera.target.x).toBe(40);
  });

  it('makes no leap after a long pause, but a flight is where its time says', () => {
    mover.start(eastward());
    frame(60_000);
    expect(camera.target.x).toBe(100);
    const end = planCamera({ x: 5000, y: 900, z: 0 }, 3);
    mover.start(flightMotion(flightBetween(camera, end, viewport), true));
    frame(60_000);
    expect(camera).toEqual(end);
    expect(mover.motion).toBeNull();
    expect(left).toEqual(['drag', null]);
  });

  it('lets a motion end itself', () => {
    const told: boolean[] = [];
    mover.start({ at: () => null, leaves: 'jump', onEnd: (isInterrupted) => told.push(isInterrupted) });
    expect(frame(10)).toBe(false);
    expect([told, left]).toEqual([[false], ['jump']]);
  });

  it('pushes on at the edge after a moment, for as long as the cursor is there', () => {
    let speed: { x: number; y: number } | null = { x: -1, y: 0 };
    mover.start(
      pushMotion(
        () => speed,
        (from) => from,
      ),
    );
    frame(100);
    expect(camera.target.x).toBe(0);
    frame(100);
    const { x } = camera.target;
    expect(x).not.toBe(0);
    frame(50);
    expect(Math.abs(camera.target.x)).toBeGreaterThan(Math.abs(x));
    speed = null;
    expect(frame(50)).toBe(false);
    expect(left).toEqual(['drag']);
  });
});
