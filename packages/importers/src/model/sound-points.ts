/** Points that can all be placed. */
export interface SoundPoints {
  /** x, y, z triples. */
  readonly positions: Float64Array;
  /** Red, green, blue of each; null if they have none of their own. */
  readonly colours: Uint8Array | null;
  /** How many were left out. */
  readonly leftOut: number;
}

/** What the report says of them. */
export const POINTS_LEFT_OUT = 'points whose coordinates are no numbers are left out';

/** Leaves out points whose coordinates are no numbers. A sound set comes back as it is. */
export function soundPoints(positions: Float64Array, colours: Uint8Array | null): SoundPoints {
  if (positions.every(Number.isFinite)) return { positions, colours, leftOut: 0 };
  const kept: number[] = [];
  for (let i = 0; i + 2 < positions.length; i += 3)
    if (Number.isFinite(positions[i]! + positions[i + 1]! + positions[i + 2]!)) kept.push(i);
  const gathered = <List extends Float64Array | Uint8Array>(from: List, to: List): List => {
    kept.forEach((at, i) => to.set(from.subarray(at, at + 3), 3 * i));
    return to;
  };
  return {
    positions: gathered(positions, new Float64Array(3 * kept.length)),
    colours: colours && gathered(colours, new Uint8Array(3 * kept.length)),
    leftOut: positions.length / 3 - kept.length,
  };
}
