import { cameraAxes, eyeOf, type Camera, type Viewport } from '../camera/camera.ts';
import { clampScale, type ScaleLimits } from '../camera/limits.ts';
import { directionOf, orientationOf, turnAbout } from '../camera/orbit.ts';
import { aboutAxis, multiply, type Quaternion } from '../geometry/quaternion.ts';
import { add3, scale3, type Vec3 } from '../geometry/vec.ts';

/**
 * What a controller with six axes tells at a moment: how far its cap is pushed to the right, up and towards the hand,
 * and turned about these axes, anticlockwise; each from −1 to 1.
 */
export interface SixAxisSample {
  readonly axes: readonly [number, number, number, number, number, number];
  /** Numbers of the buttons that are down. */
  readonly buttons: readonly number[];
  /** On one steady clock. */
  readonly timeMs: number;
}

/** Anything that six-axis samples come from: a device, one on the screen, a recording. */
export interface SixAxisSource {
  /** @returns a function that ends it */
  start(listener: (sample: SixAxisSample) => void): () => void;
}

export interface SixAxisSettings {
  /** Pushes smaller than this share of all are none. */
  readonly deadZone: number;
  /** 1 for rates in proportion to the push; larger for finer small pushes. */
  readonly curve: number;
  /** Of the full speed. */
  readonly speed: number;
  /** Which of the six axes do something. */
  readonly axesOn: readonly [boolean, boolean, boolean, boolean, boolean, boolean];
  /** The cap is the model, or the viewer. */
  readonly carries: 'object' | 'me';
}

export const usualSixAxis: SixAxisSettings = {
  deadZone: 0.06,
  curve: 1.8,
  speed: 1,
  carries: 'object',
  axesOn: [true, true, true, true, true, true],
};

/** What a full push does in a second: so many widths of the pane, so many radians. */
const WIDTHS_PER_SECOND = 0.9;
const RAD_PER_SECOND = 1.6;

/** Rates after dead zone, curve and switches, from −1 to 1: continuous, odd, and 1 at the end of the way. */
export function shapedAxes(sample: SixAxisSample, settings: SixAxisSettings): number[] {
  const { deadZone, curve, axesOn } = settings;
  return sample.axes.map((axis, index) => {
    const push = Math.min(Math.abs(axis), 1);
    if (!axesOn[index] || !(push > deadZone)) return 0;
    return Math.sign(axis) * ((push - deadZone) / (1 - deadZone)) ** curve;
  });
}

/**
 * The view a moment later.
 * @param pivot what a model is turned about, if it is carried
 * @param isHeld whether the direction may not change, as of a plan or one that is locked: it can only be twisted
 * @param isLevel whether the horizon stays level: pushes turn the bearing and the tilt, and nothing rolls
 */
export function moveBySixAxis(
  camera: Camera,
  viewport: Viewport,
  sample: SixAxisSample,
  settings: SixAxisSettings,
  {
    seconds,
    pivot,
    limits,
    isHeld,
    isLevel = false,
  }: {
    readonly seconds: number;
    readonly pivot: Vec3;
    readonly limits: ScaleLimits;
    readonly isHeld: boolean;
    readonly isLevel?: boolean;
  },
): Camera {
  const [x, y, z, tilt, swing, rz] = shapedAxes(sample, settings) as [number, number, number, number, number, number];
  const [rx, ry] = isHeld ? [0, 0] : [tilt, swing];
  if (![x, y, z, rx, ry, rz].some((rate) => rate !== 0)) return camera;
  const slide = WIDTHS_PER_SECOND * settings.speed * seconds;
  const turn = RAD_PER_SECOND * settings.speed * seconds;
  const isObject = settings.carries === 'object';
  const sign = isObject ? -1 : 1;
  const { right, up, back } = cameraAxes(camera);
  const reach = viewport.widthPx * camera.unitsPerPx * slide;
  let next = camera;
  const centre = isObject ? pivot : eyeOf(camera, viewport);
  if (isLevel && !isHeld) {
    if (rx !== 0 || ry !== 0) next = turnAbout(next, centre, turnedLevel(camera, sign * rx * turn, sign * ry * turn));
  } else if (rx !== 0 || ry !== 0 || rz !== 0) {
    const angle = Math.hypot(rx, ry, rz);
    const own = { x: (sign * rx) / angle, y: (sign * ry) / angle, z: (sign * rz) / angle };
    const orientation = multiply(camera.orientation, aboutAxis(own, angle * turn));
    next = turnAbout(next, centre, orientation);
  }
  const aside = add3(scale3(right, sign * x * reach), scale3(up, sign * y * reach));
  next = { ...next, target: add3(next.target, aside) };
  if (z === 0) return next;
  // an object that is drawn nearer is seen larger; who goes back himself sees all smaller
  const ahead = isObject ? z : -z;
  if (camera.projection === 'parallel' || isObject)
    return { ...next, unitsPerPx: clampScale(next.unitsPerPx * Math.exp(-ahead * slide), limits) };
  return { ...next, target: add3(next.target, scale3(back, -ahead * reach)) };
}

/** A direction with a level horizon, turned about the camera's own axes to the right and up; it ends straight above or below. */
function turnedLevel(camera: Camera, aboutRightRad: number, aboutUpRad: number): Quaternion {
  const { bearingRad, tiltRad } = directionOf(camera);
  const tilted = Math.min(Math.max(tiltRad - aboutRightRad, -Math.PI / 2), Math.PI / 2);
  return orientationOf({ bearingRad: bearingRad - aboutUpRad, tiltRad: tilted });
}

/** A recording: samples in the order of their times, which begin at 0. */
export type Trace = readonly SixAxisSample[];

/** The sample that holds at a time of a recording; null when it is over. */
export function sampleAt(trace: Trace, timeMs: number): SixAxisSample | null {
  const last = trace.at(-1);
  if (!last || timeMs > last.timeMs) return null;
  let found = trace[0]!;
  for (const sample of trace) {
    if (sample.timeMs > timeMs) break;
    found = sample;
  }
  return found;
}

/**
 * Plays a recording in equal steps: the same recording always gives the same views, bit for bit.
 * @param move a step: the view before, what holds, and for how many seconds
 */
export function playTrace(
  trace: Trace,
  stepMs: number,
  camera: Camera,
  move: (camera: Camera, sample: SixAxisSample, seconds: number) => Camera,
): Camera[] {
  const views: Camera[] = [];
  let now = camera;
  for (let step = 0; ; step++) {
    const sample = sampleAt(trace, step * stepMs);
    if (!sample) return views;
    now = move(now, sample, stepMs / 1000);
    views.push(now);
  }
}

const still = [0, 0, 0, 0, 0, 0] as const;
const hold = (timeMs: number, axes: SixAxisSample['axes']): SixAxisSample => ({ timeMs, axes, buttons: [] });

/** A round about what is in the middle: nearer, a turn to both sides, a look from above, and back. */
export const roundTrace: Trace = [
  hold(0, [0, 0, 0.7, 0, 0, 0]),
  hold(900, [0, 0, 0, 0, 0.75, 0]),
  hold(2300, [0, 0, 0, 0.5, 0.2, 0]),
  hold(3200, [0.4, 0, 0, 0, -0.75, 0]),
  hold(4700, [-0.4, 0.2, 0, -0.5, 0, 0]),
  hold(5600, [0, -0.2, -0.6, 0, 0, 0]),
  hold(6600, still),
];
