/**
 * A tile's place: the middle of its box on a grid of powers of two, so that differences between the places of parent
 * and child are exact in doubles and the chain of transforms adds up without rounding.
 * @param minX … maxY the tile's box, drawing units
 */
export function tileOrigin(minX: number, minY: number, maxX: number, maxY: number): { x: number; y: number } {
  const size = Math.max(maxX - minX, maxY - minY);
  if (!(size > 0)) return { x: minX, y: minY };
  const reach = Math.max(Math.abs(minX), Math.abs(minY), Math.abs(maxX), Math.abs(maxY), size);
  // no finer than 2^50 steps to the largest coordinate: sums of two places stay within 53 bits
  const step = 2 ** Math.max(Math.floor(Math.log2(size)) - 8, Math.ceil(Math.log2(reach)) - 50);
  return {
    x: Math.round((minX + maxX) / 2 / step) * step,
    y: Math.round((minY + maxY) / 2 / step) * step,
  };
}
