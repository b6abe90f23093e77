import type { WeldedMesh } from './welded-mesh.ts';

/** Faces that meet at a larger angle make an edge that is always drawn. */
export const CREASE_RAD = (30 * Math.PI) / 180;
/** Faces that meet at a smaller one are one plane: their edge is never drawn. */
const FLAT_RAD = (0.5 * Math.PI) / 180;

/**
 * Edges of a mesh that may be drawn, by the angle between their faces. Sharp ones, borders, and those of more than two
 * faces always are; soft ones, on curved surfaces, only where they are silhouettes: one face turned to the viewer, the
 * other away.
 */
export interface MeshEdges {
  /** Two vertices an edge. */
  readonly vertices: Uint32Array;
  /** x, y, z of the normals of both faces, six numbers an edge; of sharp edges the second is the first turned over. */
  readonly normals: Float64Array;
  /** A triangle at each edge. */
  readonly faces: Uint32Array;
}

interface Met {
  readonly from: number;
  readonly to: number;
  readonly face: number;
  /** The other face, −1 if there is none, −2 if there are more. */
  other: number;
  /** Whether the other face runs along the edge the same way: one of the two is turned over. */
  isTurned: boolean;
}

/** The edges of a mesh that are drawn: open ones, and those where faces meet at more than the crease angle. */
export function edgesOf({ triangles, normals }: WeldedMesh, creaseRad = CREASE_RAD): MeshEdges {
  const met = new Map<number, Met>();
  const vertexCount = triangles.reduce((most, vertex) => Math.max(most, vertex), 0) + 1;
  for (let t = 0; t < triangles.length; t += 3) {
    for (let side = 0; side < 3; side++) {
      const [from, to] = [triangles[t + side]!, triangles[t + ((side + 1) % 3)]!];
      const key = Math.min(from, to) * vertexCount + Math.max(from, to);
      const known = met.get(key);
      if (!known) met.set(key, { from, to, face: t / 3, other: -1, isTurned: false });
      else if (known.other === -1) {
        known.other = t / 3;
        known.isTurned = known.from === from;
      } else known.other = -2;
    }
  }
  const [flat, crease] = [Math.cos(FLAT_RAD), Math.cos(creaseRad)];
  const vertices: number[] = [];
  const both: number[] = [];
  const faces: number[] = [];
  for (const { from, to, face, other, isTurned } of met.values()) {
    const [x, y, z] = [normals[3 * face]!, normals[3 * face + 1]!, normals[3 * face + 2]!];
    let second = [-x, -y, -z];
    if (other >= 0) {
      const sign = isTurned ? -1 : 1;
      const next = [sign * normals[3 * other]!, sign * normals[3 * other + 1]!, sign * normals[3 * other + 2]!];
      const cosine = x * next[0]! + y * next[1]! + z * next[2]!;
      if (cosine > flat) continue;
      if (cosine > crease) second = next;
    }
    vertices.push(from, to);
    both.push(x, y, z, ...second);
    faces.push(face);
  }
  return {
    vertices: Uint32Array.from(vertices),
    normals: Float64Array.from(both),
    faces: Uint32Array.from(faces),
  };
}
