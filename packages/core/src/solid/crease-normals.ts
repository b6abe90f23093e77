import { CREASE_RAD } from './feature-edges.ts';
import type { WeldedMesh } from './welded-mesh.ts';

/** A mesh whose vertices carry normals: one place has several where faces meet at an edge. */
export interface ShadedMesh {
  /** The welded vertex of each vertex. */
  readonly source: Uint32Array;
  /** x, y, z of unit normals. */
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
}

/** Normals are told apart by so many steps from −1 to 1, as they are written into tiles. */
const STEPS = 127;
/** Where more triangles meet, those that face nearly the same way count as one: the time grows with their square. */
const MANY_CORNERS = 256;
/** As nearly as this many steps from −1 to 1. */
const COARSE_STEPS = 16;

/**
 * Smooth normals that stop at edges: at each corner the normals of the faces round its vertex that meet its own face at
 * less than the crease angle, weighted by the angle of their corners (G. Thürmer, C. A. Wüthrich, "Computing vertex
 * normals from polygonal facets", Journal of Graphics Tools 3, 1998).
 */
export function shade(mesh: WeldedMesh, creaseRad = CREASE_RAD): ShadedMesh {
  const { positions, triangles, normals } = mesh;
  const vertexCount = positions.length / 3;
  const first = new Uint32Array(vertexCount + 1);
  for (const vertex of triangles) first[vertex + 1]!++;
  for (let vertex = 0; vertex < vertexCount; vertex++) first[vertex + 1]! += first[vertex]!;
  const corners = new Uint32Array(triangles.length);
  const filled = first.slice(0, vertexCount);
  triangles.forEach((vertex, corner) => {
    corners[filled[vertex]!++] = corner;
  });
  const angles = cornerAngles(positions, triangles);
  const crease = Math.cos(creaseRad);
  const source = new Uint32Array(triangles.length);
  const smooth = new Float32Array(3 * triangles.length);
  const keys = new Int32Array(triangles.length);
  const out = new Uint32Array(triangles.length);
  let made = 0;
  for (let vertex = 0; vertex < vertexCount; vertex++) {
    const ownFirst = made;
    const around = facesAround(corners.subarray(first[vertex], first[vertex + 1]), normals, angles);
    for (let i = first[vertex]!; i < first[vertex + 1]!; i++) {
      const corner = corners[i]!;
      const own = corner - (corner % 3);
      const [nx, ny, nz] = [normals[own]!, normals[own + 1]!, normals[own + 2]!];
      let x = 0;
      let y = 0;
      let z = 0;
      for (let k = 0; k < around.length; k += 4) {
        const [ox, oy, oz, weight] = [around[k]!, around[k + 1]!, around[k + 2]!, around[k + 3]!];
        if (nx * ox + ny * oy + nz * oz < crease) continue;
        x += weight * ox;
        y += weight * oy;
        z += weight * oz;
      }
      const length = Math.sqrt(x * x + y * y + z * z) || 1;
      const key = (stepOf(x / length) * 256 + stepOf(y / length)) * 256 + stepOf(z / length);
      let index = ownFirst;
      while (index < made && keys[index] !== key) index++;
      if (index === made) {
        keys[made] = key;
        source[made] = vertex;
        smooth[3 * made] = x / length;
        smooth[3 * made + 1] = y / length;
        smooth[3 * made + 2] = z / length;
        made++;
      }
      out[corner] = index;
    }
  }
  return { source: source.slice(0, made), normals: smooth.slice(0, 3 * made), triangles: out };
}

/** The normal of each face at a vertex and the angle of its corner there: x, y, z, radians. */
function facesAround(corners: Uint32Array, normals: Float64Array, angles: Float32Array): Float64Array {
  const isMany = corners.length > MANY_CORNERS;
  const around = new Float64Array(4 * corners.length);
  const placeOf = new Map<number, number>();
  let used = 0;
  for (const corner of corners) {
    const own = corner - (corner % 3);
    const [x, y, z] = [normals[own]!, normals[own + 1]!, normals[own + 2]!];
    let at = used;
    if (isMany) {
      const step = (value: number): number => Math.round((value + 1) * COARSE_STEPS);
      const key = (step(x) * 64 + step(y)) * 64 + step(z);
      at = placeOf.get(key) ?? used;
      placeOf.set(key, at);
    }
    if (at === used) {
      around[used] = x;
      around[used + 1] = y;
      around[used + 2] = z;
      used += 4;
    }
    around[at + 3]! += angles[corner]!;
  }
  return around.subarray(0, used);
}

const stepOf = (value: number): number => Math.round(value * STEPS) + STEPS;

/** The angle of each corner of each triangle. */
function cornerAngles(positions: Float64Array, triangles: Uint32Array): Float32Array {
  const angles = new Float32Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const a = 3 * triangles[t + k]!;
      const b = 3 * triangles[t + ((k + 1) % 3)]!;
      const c = 3 * triangles[t + ((k + 2) % 3)]!;
      let dot = 0;
      let u = 0;
      let v = 0;
      for (let axis = 0; axis < 3; axis++) {
        const p = positions[b + axis]! - positions[a + axis]!;
        const q = positions[c + axis]! - positions[a + axis]!;
        dot += p * q;
        u += p * p;
        v += q * q;
      }
      angles[t + k] = Math.acos(Math.min(Math.max(dot / Math.sqrt(u * v), -1), 1));
    }
  }
  return angles;
}
