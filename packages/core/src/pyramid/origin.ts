/**
 * A tile's place: the middle of its box on a grid of powers of two, so that differences between the places of parent
 * and child are exact in doubles and the chain of transforms adds up without rounding.
 * @param minX … maxY the tile's box, drawing units
 */
export function tileOrigin(minX: number, minY: number, maxX: number, maxY: number): { x: number; y: number } {
  const [x, y] = gridMiddle([minX, minY], [maxX, maxY]) as [number, number];
  return { x, y };
}

/** The same for a tile of a solid. @param box the least coordinates, then the largest */
export function solidTileOrigin(box: readonly number[]): { x: number; y: number; z: number } {
  const [x, y, z] = gridMiddle(box.slice(0, 3), box.slice(3)) as [number, number, number];
  return { x, y, z };
}

function gridMiddle(low: readonly number[], high: readonly number[]): number[] {
  const size = Math.max(...high.map((value, axis) => value - low[axis]!));
  if (!(size > 0)) return [...low];
  const reach = Math.max(...[...low, ...high].map(Math.abs), size);
  // no finer than 2^50 steps to the largest coordinate: sums of two places stay within 53 bits
  const step = 2 ** Math.max(Math.floor(Math.log2(size)) - 8, Math.ceil(Math.log2(reach)) - 50);
  return low.map((value, axis) => Math.round((value + high[axis]!) / 2 / step) * step);
}
