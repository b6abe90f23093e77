/** A mesh of which every triangle can be drawn. */
export interface SoundMesh {
  /** x, y, z triples. */
  readonly positions: Float64Array;
  /** Three vertices each. */
  readonly triangles: Uint32Array;
  /** How many triangles were left out. */
  readonly leftOut: number;
}

/**
 * Leaves out triangles that name a vertex that isn't there, or one with coordinates that are no numbers, and all vertices
 * that then have no triangle. A sound mesh comes back as it is.
 */
export function soundMesh(positions: Float64Array, triangles: Uint32Array): SoundMesh {
  const count = positions.length / 3;
  const isSound = (vertex: number): boolean =>
    vertex < count &&
    Number.isFinite(positions[3 * vertex]!) &&
    Number.isFinite(positions[3 * vertex + 1]!) &&
    Number.isFinite(positions[3 * vertex + 2]!);
  if (triangles.every((vertex) => vertex < count) && positions.every(Number.isFinite))
    return { positions, triangles, leftOut: 0 };
  const placeOf = new Map<number, number>();
  const kept: number[] = [];
  for (let i = 0; i + 2 < triangles.length; i += 3) {
    const corners = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!];
    if (!corners.every(isSound)) continue;
    for (const corner of corners) {
      if (!placeOf.has(corner)) placeOf.set(corner, placeOf.size);
      kept.push(placeOf.get(corner)!);
    }
  }
  const moved = new Float64Array(3 * placeOf.size);
  for (const [vertex, place] of placeOf) moved.set(positions.subarray(3 * vertex, 3 * vertex + 3), 3 * place);
  const leftOut = Math.floor(triangles.length / 3) - kept.length / 3;
  return { positions: moved, triangles: Uint32Array.from(kept), leftOut };
}

/** What the report says of them. */
export const LEFT_OUT = 'triangles whose corners are missing or no numbers are left out';
