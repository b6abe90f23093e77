import { boxDiagonal, isEmptyBox, largestCoordinate, type Box3 } from '../geometry/box.ts';

/** How close and how far a camera may go, drawing units per CSS px. */
export interface ScaleLimits {
  readonly minUnitsPerPx: number;
  readonly maxUnitsPerPx: number;
}

/** Closest: one px is still 2^12 steps of a double at the drawing's coordinates, so that nothing jitters. */
const CLOSEST_SHARE_OF_COORDINATE = 2 ** -40;
/** Closest for a drawing near the origin: a ten-millionth of its size a px. */
const CLOSEST_SHARE_OF_SIZE = 1e-10;
/** Farthest: the whole drawing is still this many px across. */
const FARTHEST_PX = 4;

/** Limits for a drawing of these extents. An empty drawing gets limits that never bind. */
export function scaleLimitsFor(extents: Box3): ScaleLimits {
  const size = boxDiagonal(extents);
  if (isEmptyBox(extents) || size === 0) {
    const reach = Math.max(largestCoordinate(extents), 1);
    return { minUnitsPerPx: reach * CLOSEST_SHARE_OF_COORDINATE, maxUnitsPerPx: reach };
  }
  return {
    minUnitsPerPx: Math.max(largestCoordinate(extents) * CLOSEST_SHARE_OF_COORDINATE, size * CLOSEST_SHARE_OF_SIZE),
    maxUnitsPerPx: size / FARTHEST_PX,
  };
}

/** A scale kept within limits. @param unitsPerPx drawing units per CSS px */
export const clampScale = (unitsPerPx: number, limits: ScaleLimits): number =>
  Math.min(Math.max(unitsPerPx, limits.minUnitsPerPx), limits.maxUnitsPerPx);
