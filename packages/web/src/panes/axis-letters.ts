import type { Vec3 } from '@gull-pane/core/geometry/vec';

export const AXES = ['x', 'y', 'z'] as const;

/** How far letters stand from where the axes meet, sideways and up, px. */
const [ACROSS_PX, UPWARDS_PX] = [16, 9] as const;
/** Letters that are less than this apart, sideways and up, would run into each other, px. */
const [LETTER_WIDTH_PX, LETTER_HEIGHT_PX] = [8, 10] as const;

export interface LetterPlace {
  readonly axis: (typeof AXES)[number];
  readonly x: number;
  readonly y: number;
}

/**
 * Where the letters of the axes stand about the place where the axes meet, x to the right and y down, px; letters that would
 * overlap are moved apart.
 * @param right the view's direction to the right, in drawing coordinates
 * @param up its direction upwards
 */
export function letterPlaces(right: Vec3, up: Vec3): LetterPlace[] {
  const places = AXES.map((axis) => ({ axis, x: ACROSS_PX * right[axis], y: -UPWARDS_PX * up[axis] }));
  for (const [i, one] of places.entries())
    for (const other of places.slice(i + 1)) {
      const [across, down] = [other.x - one.x, other.y - one.y];
      if (Math.abs(across) >= LETTER_WIDTH_PX || Math.abs(down) >= LETTER_HEIGHT_PX) continue;
      const apart = (LETTER_HEIGHT_PX - Math.abs(down)) / 2;
      one.y += down < 0 ? apart : -apart;
      other.y += down < 0 ? -apart : apart;
    }
  return places;
}
