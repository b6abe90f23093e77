import type { Camera, Viewport } from '../camera/camera.ts';
import { orientationOf } from '../camera/orbit.ts';
import { rotate } from '../geometry/quaternion.ts';
import { add3, dot3, scale3, sub3, type Vec2, type Vec3 } from '../geometry/vec.ts';

/** A person standing in a model. Drawing units are mm; X east, Y north, Z up. */
export interface Walker {
  /** Where the feet are: on the ground, or below the eye while flying. */
  readonly feet: Vec3;
  /** Where one looks: clockwise from north, and how far up; 0 is level. */
  readonly bearingRad: number;
  readonly upRad: number;
  /** Of the eye above the feet. */
  readonly eyeHeight: number;
}

/** What walkers may do. Lengths in mm. */
export interface WalkRules {
  /** Higher steps count as walls, deeper ones as edges: the walker stops there. */
  readonly stepHeight: number;
  /** Nothing of a wall comes nearer to the middle of the body. */
  readonly bodyRadius: number;
  readonly doWallsStop: boolean;
}

export const usualRules: WalkRules = { stepHeight: 350, bodyRadius: 250, doWallsStop: true };

/** What a walker can run into. */
export interface WalkWorld {
  /**
   * The nearest surface on a way.
   * @param along unit vector
   * @param most what lies farther doesn't count
   * @returns its distance and unit normal, turned against the way; null if the way is free
   */
  meet(from: Vec3, along: Vec3, most: number): { readonly distance: number; readonly normal: Vec3 } | null;
}

const down: Vec3 = { x: 0, y: 0, z: -1 };
/** Feet are so wide: a grating holds them though its bars leave gaps. */
const FOOT_RADIUS = 130;
/** A way is walked in pieces of at most this. */
const PIECE = 90;
const SOLE_POINTS = 72;
const GOLDEN_ANGLE = Math.PI * (3 - Math.sqrt(5));
/** From the middle outwards, so that no row of bars misses all of them (H. Vogel, "A better way to construct the sunflower head", 1979). */
const soles: readonly Vec2[] = Array.from({ length: SOLE_POINTS }, (_, i) => {
  const radius = FOOT_RADIUS * Math.sqrt(i / (SOLE_POINTS - 1));
  return { x: radius * Math.cos(i * GOLDEN_ANGLE), y: radius * Math.sin(i * GOLDEN_ANGLE) };
});

/**
 * The ground that feet at a place find within a step up or down.
 * @returns its height; null if there is none
 */
export function groundAt(world: WalkWorld, feet: Vec3, stepHeight: number): number | null {
  const most = 2 * stepHeight;
  // nearly everywhere the middle finds something, and the rest of the foot is not asked
  for (const { x, y } of soles) {
    const hit = world.meet({ x: feet.x + x, y: feet.y + y, z: feet.z + stepHeight }, down, most);
    if (hit) return feet.z + stepHeight - hit.distance;
  }
  return null;
}

/**
 * Walks along the ground: up and down steps and ramps, along walls that stand in the way, up to edges.
 * @param way level, mm
 */
export function walkBy(walker: Walker, way: Vec2, rules: WalkRules, world: WalkWorld): Walker {
  const pieces = Math.max(Math.ceil(Math.hypot(way.x, way.y) / PIECE), 1);
  let { feet } = walker;
  for (let piece = 0; piece < pieces; piece++) {
    const own = { x: way.x / pieces, y: way.y / pieces };
    const next = stepTo(feet, own, rules, world);
    if (!next) break;
    feet = next;
  }
  return feet === walker.feet ? walker : { ...walker, feet };
}

function stepTo(feet: Vec3, way: Vec2, rules: WalkRules, world: WalkWorld): Vec3 | null {
  const free = rules.doWallsStop ? pastWalls(feet, way, rules, world) : way;
  // at an edge one goes on along it, if either part of the way stays on the ground
  for (const { x, y } of [free, { x: free.x, y: 0 }, { x: 0, y: free.y }]) {
    if (x === 0 && y === 0) continue;
    const there = { x: feet.x + x, y: feet.y + y, z: feet.z };
    const z = groundAt(world, there, rules.stepHeight);
    const isWall = rules.doWallsStop && isBlocked(feet, { x, y }, rules, world);
    if (z !== null && !isWall) return { ...there, z };
  }
  return null;
}

/** Heights at which a body meets walls, as shares of the room above a step. */
const bodyShares = [0.02, 0.35, 0.7, 1];
const BODY_HEIGHT = 1650;

function wallBefore(
  feet: Vec3,
  way: Vec2,
  { stepHeight, bodyRadius }: WalkRules,
  world: WalkWorld,
): { readonly distance: number; readonly normal: Vec3 } | null {
  const length = Math.hypot(way.x, way.y);
  const ahead = { x: way.x / length, y: way.y / length, z: 0 };
  const aside = { x: -ahead.y, y: ahead.x };
  let nearest: { readonly distance: number; readonly normal: Vec3 } | null = null;
  for (const share of bodyShares)
    for (const side of [0, -0.9, 0.9]) {
      const from = {
        x: feet.x + side * bodyRadius * aside.x,
        y: feet.y + side * bodyRadius * aside.y,
        z: feet.z + stepHeight + share * (BODY_HEIGHT - stepHeight),
      };
      const hit = world.meet(from, ahead, bodyRadius + length);
      if (hit && (!nearest || hit.distance < nearest.distance)) nearest = hit;
    }
  return nearest;
}

const isBlocked = (feet: Vec3, way: Vec2, rules: WalkRules, world: WalkWorld): boolean =>
  wallBefore(feet, way, rules, world) !== null;

/** What remains of a way where a wall stands: the part along it. */
function pastWalls(feet: Vec3, way: Vec2, rules: WalkRules, world: WalkWorld): Vec2 {
  if (way.x === 0 && way.y === 0) return way;
  const wall = wallBefore(feet, way, rules, world);
  if (!wall) return way;
  const { x, y } = wall.normal;
  const length = Math.hypot(x, y);
  if (length < 1e-6) return { x: 0, y: 0 };
  const into = (way.x * x + way.y * y) / (length * length);
  return { x: way.x - into * x, y: way.y - into * y };
}

/** Flies: straight through everything, wherever one looks. @param way mm */
export const flyBy = (walker: Walker, way: Vec3): Walker => ({ ...walker, feet: add3(walker.feet, way) });

const UPRIGHT_LIMIT = (89 * Math.PI) / 180;

/** Looks about; never over one's own head. */
export const lookBy = (walker: Walker, rightRad: number, upRad: number): Walker => ({
  ...walker,
  bearingRad: walker.bearingRad + rightRad,
  upRad: Math.min(Math.max(walker.upRad + upRad, -UPRIGHT_LIMIT), UPRIGHT_LIMIT),
});

/** Unit vectors of a walker's way: ahead and to the right on the ground, and along the line of sight. */
export function waysOf({ bearingRad, upRad }: Walker): {
  readonly ahead: Vec2;
  readonly right: Vec2;
  readonly sight: Vec3;
} {
  const ahead = { x: Math.sin(bearingRad), y: Math.cos(bearingRad) };
  const level = Math.cos(upRad);
  return {
    ahead,
    right: { x: ahead.y, y: -ahead.x },
    sight: { x: ahead.x * level, y: ahead.y * level, z: Math.sin(upRad) },
  };
}

/** The eye looks as if at something so far away, mm: what a zoom and a change of projection mean. */
const FOCUS = 4000;

/** Where the eye of a walker is; drawing units of the world. */
export const eyeOfWalker = ({ feet, eyeHeight }: Walker): Vec3 => ({ ...feet, z: feet.z + eyeHeight });

/** What a walker sees. */
export function cameraOfWalker(walker: Walker, { heightPx }: Viewport, fovRad: number): Camera {
  const orientation = orientationOf({ bearingRad: walker.bearingRad, tiltRad: -walker.upRad });
  const ahead = rotate(orientation, { x: 0, y: 0, z: -1 });
  return {
    projection: 'perspective',
    fovRad,
    orientation,
    target: add3(eyeOfWalker(walker), scale3(ahead, FOCUS)),
    unitsPerPx: (FOCUS * 2 * Math.tan(fovRad / 2)) / Math.max(heightPx, 1),
  };
}

/**
 * A walker who stands where a surface was clicked and goes on looking the same way, but level.
 * @param from where the click was looked from
 */
export function standAt(point: Vec3, from: Vec3, eyeHeight: number): Walker {
  const way = sub3(point, from);
  const level = Math.hypot(way.x, way.y);
  const isFromAbove = level < 1e-3 * Math.sqrt(dot3(way, way));
  return { feet: point, bearingRad: isFromAbove ? 0 : Math.atan2(way.x, way.y), upRad: 0, eyeHeight };
}

/** Below this a leash doesn't pull, CSS px. */
const SLACK_PX = 6;
const FASTEST = 20;

/** How fast a leash pulls: slowly while it is short, ever faster. @param lengthPx from where the drag began @returns m/s */
export function leashSpeed(lengthPx: number): number {
  const pull = Math.max(lengthPx - SLACK_PX, 0) / 100;
  return Math.min(1.4 * pull ** 1.6, FASTEST);
}
