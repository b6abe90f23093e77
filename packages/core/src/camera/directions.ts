import { directionOf, rollOf, type Direction } from './orbit.ts';
import type { Camera } from './camera.ts';
import { formatBearing } from './twist.ts';

/** Tilt under which a corner of a cube is seen above the opposite one. */
export const CORNER_TILT_RAD = Math.atan(Math.SQRT1_2);
const EIGHTH = Math.PI / 4;
const QUARTER = Math.PI / 2;
const HALF_DEGREE = Math.PI / 360;
/** A direction nearer to a standard one than this is it. */
const SAME_RAD = 1e-6;

/** One of the 26 standard directions: along the faces, edges and corners of a cube. */
export interface StandardDirection extends Direction {
  readonly name: string;
}

/** Compass points where one stands when looking with a bearing of so many eighths. */
const standpoints = ['south', 'south-west', 'west', 'north-west', 'north', 'north-east', 'east', 'south-east'] as const;

/** Three rows of eight by bearing, from above, level, from below; then straight down and straight up. */
export const standardDirections: readonly StandardDirection[] = [
  ...[1, 0, -1].flatMap((row) =>
    standpoints.map((from, eighth): StandardDirection => ({
      bearingRad: eighth * EIGHTH,
      tiltRad: row * (eighth % 2 === 0 ? EIGHTH : CORNER_TILT_RAD),
      name: row === 0 ? `From ${from}` : `From ${from}, ${row > 0 ? 'above' : 'below'}`,
    })),
  ),
  { bearingRad: 0, tiltRad: QUARTER, name: 'Plan' },
  { bearingRad: 0, tiltRad: -QUARTER, name: 'From below' },
];

/** The default direction of a model: from south-east, above. */
export const HOME_DIRECTION: Direction = standardDirections[7]!;

/** The standard direction that a level view has, if any; a plan may have any bearing. */
export function standardOf(camera: Pick<Camera, 'orientation'>): StandardDirection | null {
  const { bearingRad, tiltRad } = directionOf(camera);
  if (Math.abs(rollOf(camera)) > SAME_RAD) return null;
  return (
    standardDirections.find((standard) => {
      if (Math.abs(standard.tiltRad - tiltRad) > SAME_RAD) return false;
      return Math.abs(standard.tiltRad) === QUARTER || turnBetween(standard.bearingRad, bearingRad) < SAME_RAD;
    }) ?? null
  );
}

const turnBetween = (a: number, b: number): number => Math.abs(Math.atan2(Math.sin(a - b), Math.cos(a - b)));

/** Whether a direction looks straight along an axis: the plan, from below, and the four elevations. */
export const isAlongAxis = ({ bearingRad, tiltRad }: Direction): boolean =>
  Math.abs(Math.abs(tiltRad) - QUARTER) < SAME_RAD ||
  (Math.abs(tiltRad) < SAME_RAD && turnBetween(Math.round(bearingRad / QUARTER) * QUARTER, bearingRad) < SAME_RAD);

/** So little off straight down, a view is a plan that was tilted rather than a view from above. */
const TILTED_PLAN_RAD = (25 * Math.PI) / 180;

/** How far a view is tilted out of the plan; 0 for the plan itself, null from 25° on, where it is no plan any more. */
export function planTilt(camera: Pick<Camera, 'orientation'>): number | null {
  const off = QUARTER - directionOf(camera).tiltRad;
  if (off < SAME_RAD) return 0;
  return off < TILTED_PLAN_RAD ? off : null;
}

/** A direction in words: `Plan, north up`, `Plan, tilted 12°`, `From north-east, above`. */
export function directionInWords(camera: Pick<Camera, 'orientation'>): string {
  const { bearingRad, tiltRad } = directionOf(camera);
  const tilt = planTilt(camera);
  if (tilt !== null && tilt > 0) return `Plan, tilted ${degrees(tilt)}`;
  if (tilt === 0) return `Plan, ${topInWords(bearingRad)} up`;
  if (tiltRad < -QUARTER + SAME_RAD) return 'From below';
  const from = standpoints[Math.round(bearingRad / EIGHTH) % 8]!;
  const height = tiltRad > SAME_RAD ? ', above' : tiltRad < -SAME_RAD ? ', below' : '';
  const isRolled = Math.abs(rollOf(camera)) > SAME_RAD ? ', rolled' : '';
  return `From ${from}${height}${isRolled}`;
}

/** Where one looks who stands in a model, in words: `Looking north-west, 12° down`. */
export function gazeInWords(camera: Pick<Camera, 'orientation'>): string {
  const { bearingRad, tiltRad } = directionOf(camera);
  const towards = standpoints[(Math.round(bearingRad / EIGHTH) + 4) % 8]!;
  if (Math.abs(tiltRad) < HALF_DEGREE) return `Looking ${towards}`;
  return `Looking ${towards}, ${degrees(Math.abs(tiltRad))} ${tiltRad > 0 ? 'down' : 'up'}`;
}

/** Compass points by quarters of a bearing. */
const compass = ['north', 'east', 'south', 'west'] as const;

/** What lies at the top of a plan, in words: `north`, `030.5°`. */
export function topInWords(bearingRad: number): string {
  const quarter = Math.round(bearingRad / QUARTER);
  const isCompassPoint = turnBetween(bearingRad, quarter * QUARTER) < SAME_RAD;
  return isCompassPoint ? compass[((quarter % 4) + 4) % 4]! : formatBearing(bearingRad);
}

const degrees = (angleRad: number): string => `${Math.max(Math.round((angleRad * 180) / Math.PI), 1)}°`;

/** The direction along an axis that is nearest to a view: what it is squared up to. */
export function squaredUp(camera: Pick<Camera, 'orientation'>): Direction {
  const { bearingRad, tiltRad } = directionOf(camera);
  const tilt = Math.abs(tiltRad) < EIGHTH ? 0 : Math.sign(tiltRad) * QUARTER;
  return { bearingRad: Math.round(bearingRad / QUARTER) * QUARTER, tiltRad: tilt };
}
