import { Scratch } from '../geometry/scratch.ts';
import { PairTable } from './pair-table.ts';
import type { WeldedMesh } from './welded-mesh.ts';

/** Faces that meet at a larger angle make an edge that is always drawn. */
export const CREASE_RAD = (30 * Math.PI) / 180;
/** Faces that meet at a smaller one are one plane: their edge is never drawn. */
export const FLAT_RAD = (0.5 * Math.PI) / 180;

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

const scratch = {
  ends: new Scratch(Uint32Array),
  firstFace: new Scratch(Uint32Array),
  otherFace: new Scratch(Int32Array),
  isTurned: new Scratch(Uint8Array),
  vertices: new Scratch(Uint32Array),
  normals: new Scratch(Float64Array),
  faces: new Scratch(Uint32Array),
};

/** What is known of an edge's other face. */
const NONE = -1;
const SEVERAL = -2;

/** The edges of a mesh that are drawn: open ones, and those where faces meet at more than the crease angle. */
export function edgesOf({ triangles, normals }: WeldedMesh, creaseRad = CREASE_RAD): MeshEdges {
  const table = new PairTable(triangles.length);
  const ends = scratch.ends.take(2 * triangles.length);
  const firstFace = scratch.firstFace.take(triangles.length);
  const otherFace = scratch.otherFace.take(triangles.length).fill(NONE, 0, triangles.length);
  /** Whether the other face runs along the edge the same way: one of the two is turned over. */
  const isTurned = scratch.isTurned.take(triangles.length).fill(0, 0, triangles.length);
  let count = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    for (let side = 0; side < 3; side++) {
      const from = triangles[t + side]!;
      const to = triangles[t + ((side + 1) % 3)]!;
      const edge = table.findOrAdd(Math.min(from, to), Math.max(from, to), count);
      if (edge === count) {
        ends[2 * edge] = from;
        ends[2 * edge + 1] = to;
        firstFace[edge] = t / 3;
        count++;
      } else if (otherFace[edge] === NONE) {
        otherFace[edge] = t / 3;
        isTurned[edge] = ends[2 * edge] === from ? 1 : 0;
      } else otherFace[edge] = SEVERAL;
    }
  }
  const [flat, crease] = [Math.cos(FLAT_RAD), Math.cos(creaseRad)];
  const vertices = scratch.vertices.take(2 * count);
  const both = scratch.normals.take(6 * count);
  const faces = scratch.faces.take(count);
  let kept = 0;
  for (let edge = 0; edge < count; edge++) {
    const face = firstFace[edge]!;
    const other = otherFace[edge]!;
    const [x, y, z] = [normals[3 * face]!, normals[3 * face + 1]!, normals[3 * face + 2]!];
    let [x1, y1, z1] = [-x, -y, -z];
    if (other >= 0) {
      const sign = isTurned[edge] === 1 ? -1 : 1;
      const [ox, oy, oz] = [sign * normals[3 * other]!, sign * normals[3 * other + 1]!, sign * normals[3 * other + 2]!];
      const cosine = x * ox + y * oy + z * oz;
      if (cosine > flat) continue;
      if (cosine > crease) [x1, y1, z1] = [ox, oy, oz];
    }
    vertices[2 * kept] = ends[2 * edge]!;
    vertices[2 * kept + 1] = ends[2 * edge + 1]!;
    both[6 * kept] = x;
    both[6 * kept + 1] = y;
    both[6 * kept + 2] = z;
    both[6 * kept + 3] = x1;
    both[6 * kept + 4] = y1;
    both[6 * kept + 5] = z1;
    faces[kept++] = face;
  }
  return { vertices: vertices.slice(0, 2 * kept), normals: both.slice(0, 6 * kept), faces: faces.slice(0, kept) };
}
