import { dot3, type Vec3 } from '../geometry/vec.ts';
import type { Material } from '../solid/solid-model.ts';

/** The page's shaders light surfaces in the same way (`solid-shaders.ts`): over the viewer's left shoulder. */
const length = Math.hypot(-0.4, 0.55, 0.75);
const LIGHT = { x: -0.4 / length, y: 0.55 / length, z: 0.75 / length } as const;

/**
 * The colour of a place of a surface as it is seen, 0 … 255.
 * @param normal of the surface, of length 1, along the view's axes: right, up, towards the viewer
 * @param sight from the place to the eye, of length 1, along the same axes
 * @param hasGloss as the materials look with their gloss rather than plain
 */
export function litColour(
  { colour, metalness, roughness }: Material,
  normal: Vec3,
  sight: Vec3,
  hasGloss: boolean,
): readonly [number, number, number] {
  const sign = dot3(normal, sight) < 0 ? -1 : 1;
  const n = { x: sign * normal.x, y: sign * normal.y, z: sign * normal.z };
  const lit = 0.46 + 0.44 * Math.max(dot3(n, LIGHT), 0) + 0.12 * n.y;
  const tint = [colour.r / 255, colour.g / 255, colour.b / 255];
  if (!hasGloss) return tint.map((share) => 255 * Math.min(share * lit, 1)) as [number, number, number];
  // C. Schlick, "An inexpensive BRDF model for physically-based rendering", 1994, with the lobe of J. Blinn, 1977
  const half = { x: LIGHT.x + sight.x, y: LIGHT.y + sight.y, z: LIGHT.z + sight.z };
  const halfLength = Math.hypot(half.x, half.y, half.z) || 1;
  const power = 180 + (6 - 180) * roughness;
  const gloss = Math.max(dot3(n, half) / halfLength, 0) ** power * (1 - 0.85 * roughness);
  const rim = (1 - Math.max(dot3(n, sight), 0)) ** 5;
  const shine = gloss * 1.6 + 0.28 * metalness * (0.5 + 0.5 * n.y);
  return tint.map((share) => {
    const mirror = 0.04 + (share - 0.04) * metalness;
    const shown = share * lit * (1 - 0.45 * metalness) + (mirror + (1 - mirror) * rim * 0.4) * shine;
    return 255 * Math.min(shown, 1);
  }) as [number, number, number];
}
