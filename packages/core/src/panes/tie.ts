import type { Camera, Viewport } from '../camera/camera.ts';
import { clampScale, type ScaleLimits } from '../camera/limits.ts';
import { directionOf, orientationOf } from '../camera/orbit.ts';
import { sightThrough } from '../camera/projection.ts';
import { bearingOf, twistTo } from '../camera/twist.ts';
import type { Box3 } from '../geometry/box.ts';
import type { Vec3 } from '../geometry/vec.ts';

/** What panes that are tied have in common; any mix. */
export interface TieHolds {
  readonly place: boolean;
  /** Drawing units a px, so in panes of one screen the scale. */
  readonly scale: boolean;
  /** Opposite: from the other side, at the same tilt. */
  readonly direction: 'free' | 'same' | 'opposite';
}

/** A pane at one end of a tie. */
export interface TiedView {
  readonly camera: Camera;
  readonly viewport: Viewport;
  readonly kind: 'flat' | 'solid';
  readonly extents: Box3 | null;
}

/** Beyond this a line of sight is too flat to tell where on the ground it looks: the sine of its tilt. */
const FLATTEST = 0.17;

/** The height that a plan lies at in a solid: its ground, 0, or the nearest height that it has. */
export function groundHeight(extents: Box3 | null): number {
  if (!extents) return 0;
  return Math.min(Math.max(0, extents.min.z), extents.max.z);
}

/** Where on the ground a solid's view looks in its middle; its target if it looks too flat for that. */
export function groundPlace({ camera, viewport, extents }: TiedView): Vec3 {
  const middle = { x: viewport.widthPx / 2, y: viewport.heightPx / 2 };
  const { along } = sightThrough(camera, viewport, middle);
  if (along.z > -FLATTEST) return camera.target;
  const { target } = camera;
  const way = (groundHeight(extents) - target.z) / along.z;
  return { x: target.x + along.x * way, y: target.y + along.y * way, z: target.z + along.z * way };
}

function placeFor(leader: TiedView, follower: TiedView): Vec3 {
  if (leader.kind === follower.kind) return leader.camera.target;
  if (leader.kind === 'solid') {
    const { x, y } = groundPlace(leader);
    return { x, y, z: follower.camera.target.z };
  }
  const { x, y } = leader.camera.target;
  return { x, y, z: groundHeight(follower.extents) };
}

/** Straight down and up there is no other side but that from which the top lies below. */
function turnedFor(camera: Camera, leader: TiedView, kind: TiedView['kind'], isOpposite: boolean): Camera {
  const half = isOpposite ? Math.PI : 0;
  const heading = leader.kind === 'flat' ? bearingOf(leader.camera) : directionOf(leader.camera).bearingRad;
  if (kind === 'flat') return twistTo(camera, heading + half);
  if (leader.kind === 'solid' && !isOpposite) return { ...camera, orientation: leader.camera.orientation };
  const { tiltRad } = directionOf(leader.kind === 'solid' ? leader.camera : camera);
  return { ...camera, orientation: orientationOf({ bearingRad: heading + half, tiltRad }) };
}

/**
 * The view of a pane that is tied to another which has moved. Panes of flat and of solid drawings share the grid: x east,
 * y north, in the same unit. A plan tells a solid's bearing and leaves it its tilt; of a solid a plan takes the bearing.
 * @param limits of the follower
 */
export function followed(leader: TiedView, follower: TiedView, holds: TieHolds, limits: ScaleLimits): Camera {
  const start = follower.camera;
  const scaled = holds.scale ? { ...start, unitsPerPx: clampScale(leader.camera.unitsPerPx, limits) } : start;
  const turned =
    holds.direction === 'free' ? scaled : turnedFor(scaled, leader, follower.kind, holds.direction === 'opposite');
  return holds.place ? { ...turned, target: placeFor(leader, follower) } : turned;
}

/** Whether two drawings may lie on one grid: in the same unit, with extents that meet. */
export function sharesGrid(
  one: { readonly unit: string; readonly extents: Box3 | null },
  other: { readonly unit: string; readonly extents: Box3 | null },
): boolean {
  const [a, b] = [one.extents, other.extents];
  if (one.unit !== other.unit || !a || !b) return false;
  return a.min.x <= b.max.x && b.min.x <= a.max.x && a.min.y <= b.max.y && b.min.y <= a.max.y;
}
