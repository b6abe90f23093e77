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
    for (let i = first[vertex]!; i < first[vertex + 1]!; i++) {
      const corner = corners[i]!;
      const own = corner - (corner % 3);
      const [nx, ny, nz] = [normals[own]!, normals[own + 1]!, normals[own + 2]!];
      let x = 0;
      let y = 0;
      let z = 0;
      for (let k = first[vertex]!; k < first[vertex + 1]!; k++) {
        const next = corners[k]!;
        const other = next - (next % 3);
        const [ox, oy, oz] = [normals[other]!, normals[other + 1]!, normals[other + 2]!];
        if (nx * ox + ny * oy + nz * oz < crease) continue;
        const weight = angles[next]!;
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
