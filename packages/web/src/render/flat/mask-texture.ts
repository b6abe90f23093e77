import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import type { TexelData } from './batch/texel-data';

/** Objects side by side in a row of the texture. */
export const MASK_WIDTH_BITS = 11;
const MASK_WIDTH = 1 << MASK_WIDTH_BITS;

/** Which objects are hidden, as the shaders read it; a single texel that hides nothing if none is. */
export function makeMaskTexture(mask: ObjectMask | null): TexelData {
  const rows = mask ? Math.max(Math.ceil(mask.bytes.length / MASK_WIDTH), 1) : 1;
  const texels = new Uint8Array(mask ? rows * MASK_WIDTH : 1);
  if (mask) texels.set(mask.bytes);
  return { width: mask ? MASK_WIDTH : 1, height: rows, texels };
}
