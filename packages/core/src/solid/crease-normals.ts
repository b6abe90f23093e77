import { Scratch } from '../geometry/scratch.ts';
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

const scratch = {
  first: new Scratch(Uint32Array),
  corners: new Scratch(Uint32Array),
  filled: new Scratch(Uint32Array),
  angles: new Scratch(Float32Array),
  source: new Scratch(Uint32Array),
  smooth: new Scratch(Float32Array),
  keys: new Scratch(Int32Array),
  faces: new Scratch(Float64Array),
};

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
  const first = scratch.first.take(vertexCount + 1).fill(0, 0, vertexCount + 1);
  for (let corner = 0; corner < triangles.length; corner++) first[triangles[corner]! + 1]!++;
  for (let vertex = 0; vertex < vertexCount; vertex++) first[vertex + 1]! += first[vertex]!;
  const corners = scratch.corners.take(triangles.length);
  const filled = scratch.filled.take(vertexCount);
  for (let vertex = 0; vertex < vertexCount; vertex++) filled[vertex] = first[vertex]!;
  for (let corner = 0; corner < triangles.length; corner++) corners[filled[triangles[corner]!]!++] = corner;
  const angles = cornerAngles(positions, triangles);
  const crease = Math.cos(creaseRad);
  const source = scratch.source.take(triangles.length);
  const smooth = scratch.smooth.take(3 * triangles.length);
  const keys = scratch.keys.take(triangles.length);
  const out = new Uint32Array(triangles.length);
  const around = new FacesAround(normals, angles);
  let made = 0;
  for (let vertex = 0; vertex < vertexCount; vertex++) {
    const ownFirst = made;
    around.meet(corners, first[vertex]!, first[vertex + 1]!);
    const { faces, count } = around;
    for (let i = first[vertex]!; i < first[vertex + 1]!; i++) {
      const corner = corners[i]!;
      const own = corner - (corner % 3);
      const nx = normals[own]!;
      const ny = normals[own + 1]!;
      const nz = normals[own + 2]!;
      let x = 0;
      let y = 0;
      let z = 0;
      for (let k = 0; k < 4 * count; k += 4) {
        const ox = faces[k]!;
        const oy = faces[k + 1]!;
        const oz = faces[k + 2]!;
        if (nx * ox + ny * oy + nz * oz < crease) continue;
        const weight = faces[k + 3]!;
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

/** The faces at a vertex. */
class FacesAround {
  /** The normal of each face and the angle of its corner: x, y, z, radians. */
  faces = scratch.faces.take(4 * MANY_CORNERS);
  count = 0;

  constructor(
    private readonly normals: Float64Array,
    private readonly angles: Float32Array,
  ) {}

  /** Takes those of the corners from one place in a list to another. */
  meet(corners: Uint32Array, from: number, to: number): void {
    const { normals, angles } = this;
    const isMany = to - from > MANY_CORNERS;
    if (isMany && this.faces.length < 4 * (to - from)) this.faces = new Float64Array(4 * (to - from));
    const { faces } = this;
    const placeOf = isMany ? new Map<number, number>() : null;
    let used = 0;
    for (let i = from; i < to; i++) {
      const corner = corners[i]!;
      const own = corner - (corner % 3);
      let at = used;
      if (placeOf) {
        const key = coarseKey(normals[own]!, normals[own + 1]!, normals[own + 2]!);
        at = placeOf.get(key) ?? used;
        placeOf.set(key, at);
      }
      if (at === used) {
        faces[used] = normals[own]!;
        faces[used + 1] = normals[own + 1]!;
        faces[used + 2] = normals[own + 2]!;
        faces[used + 3] = 0;
        used += 4;
      }
      faces[at + 3]! += angles[corner]!;
    }
    this.count = used / 4;
  }
}

function coarseKey(x: number, y: number, z: number): number {
  const step = (value: number): number => Math.round((value + 1) * COARSE_STEPS);
  return (step(x) * 64 + step(y)) * 64 + step(z);
}

const stepOf = (value: number): number => Math.round(value * STEPS) + STEPS;

/** The angle of each corner of each triangle. */
function cornerAngles(positions: Float64Array, triangles: Uint32Array): Float32Array {
  const angles = scratch.angles.take(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const a = 3 * triangles[t + k]!;
      const b = 3 * triangles[t + ((k + 1) % 3)]!;
      const c = 3 * triangles[t + ((k + 2) % 3)]!;
      const px = positions[b]! - positions[a]!;
      const py = positions[b + 1]! - positions[a + 1]!;
      const pz = positions[b + 2]! - positions[a + 2]!;
      const qx = positions[c]! - positions[a]!;
      const qy = positions[c + 1]! - positions[a + 1]!;
      const qz = positions[c + 2]! - positions[a + 2]!;
      const dot = px * qx + py * qy + pz * qz;
      const lengths = Math.sqrt((px * px + py * py + pz * pz) * (qx * qx + qy * qy + qz * qz));
      angles[t + k] = Math.acos(Math.min(Math.max(dot / lengths, -1), 1));
    }
  }
  return angles;
}
