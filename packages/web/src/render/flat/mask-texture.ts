import { DataTexture, NearestFilter, RedFormat, UnsignedByteType } from 'three';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';

/** Objects side by side in a row of the texture. */
export const MASK_WIDTH = 2048;

/** Which objects are hidden, as the shaders read it; a single texel that hides nothing if none is. */
export function makeMaskTexture(mask: ObjectMask | null): DataTexture {
  const rows = mask ? Math.max(Math.ceil(mask.bytes.length / MASK_WIDTH), 1) : 1;
  const data = new Uint8Array(mask ? rows * MASK_WIDTH : 1);
  if (mask) data.set(mask.bytes);
  const texture = new DataTexture(data, mask ? MASK_WIDTH : 1, rows, RedFormat, UnsignedByteType);
  texture.minFilter = texture.magFilter = NearestFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}
