import type { Vec3 } from '../geometry/vec.ts';
import { edgesOf } from './feature-edges.ts';
import { weld, type WeldedMesh } from './welded-mesh.ts';

/** A plane part of a solid's surface: triangles that hang together in one plane. */
export interface SolidFace {
  /** Unit normal, outwards. */
  readonly normal: Vec3;
  /** Middle of its area. */
  readonly centre: Vec3;
  readonly area: number;
}

/** What can be pointed at exactly in an object of a model. Drawing units, the stored doubles. */
export interface SolidFeatures {
  /** x, y, z triples. */
  readonly corners: readonly number[];
  /** Straight edges: both ends, six numbers each. */
  readonly edges: readonly number[];
  readonly faces: readonly SolidFace[];
}

export interface SolidPart {
  readonly positions: readonly number[];
  readonly triangles: readonly number[];
  /** Two vertices an edge, where the source has edges of its own. */
  readonly edges: readonly number[];
}

/** Edges in one line are one edge; so much may their directions differ, sine. */
const STRAIGHT = 1e-6;
/** Faces in one plane are one face; so much may their normals differ, 1 − cosine. */
const PLANE = 1e-9;

/** Corners, edges and faces of a solid’s parts that points can snap to; drawing units. */
export function featuresOf(parts: readonly SolidPart[]): SolidFeatures {
  const corners: number[] = [];
  const edges: number[] = [];
  const faces: SolidFace[] = [];
  for (const part of parts) {
    const mesh = weld(part.positions, part.triangles);
    const own = sharpEdges(mesh);
    // edges of the source stand for themselves
    for (let i = 0; i + 1 < part.edges.length; i += 2) {
      const [a, b] = [mesh.vertexOf[part.edges[i]!]!, mesh.vertexOf[part.edges[i + 1]!]!];
      if (a !== b) own.push([a, b]);
    }
    const straight = joined(mesh, own);
    const ends = new Set<number>();
    for (const [a, b] of straight) {
      edges.push(...at(mesh, a), ...at(mesh, b));
      ends.add(a).add(b);
    }
    for (const vertex of ends) corners.push(...at(mesh, vertex));
    faces.push(...facesOf(mesh));
  }
  return { corners, edges, faces };
}

type Edge = readonly [from: number, to: number];

const at = ({ positions }: WeldedMesh, vertex: number): [number, number, number] => [
  positions[3 * vertex]!,
  positions[3 * vertex + 1]!,
  positions[3 * vertex + 2]!,
];

/** Edges between faces that don't pass smoothly into one another. */
function sharpEdges(mesh: WeldedMesh): Edge[] {
  const { vertices, normals } = edgesOf(mesh);
  const edges: Edge[] = [];
  for (let edge = 0; edge < vertices.length / 2; edge++) {
    const isSharp = [0, 1, 2].every((k) => normals[6 * edge + k] === -normals[6 * edge + 3 + k]!);
    if (isSharp) edges.push([vertices[2 * edge]!, vertices[2 * edge + 1]!]);
  }
  return edges;
}

/** Edges that go on in the same direction where only two meet, as one. */
function joined(mesh: WeldedMesh, edges: readonly Edge[]): Edge[] {
  const meeting = new Map<number, Set<number>>();
  const link = (a: number, b: number): void => void (meeting.get(a) ?? meeting.set(a, new Set()).get(a)!).add(b);
  for (const [a, b] of edges) {
    link(a, b);
    link(b, a);
  }
  for (const [vertex, others] of meeting) {
    if (others.size !== 2) continue;
    const [a, b] = [...others] as [number, number];
    if (!isBetween(at(mesh, a), at(mesh, vertex), at(mesh, b))) continue;
    meeting.delete(vertex);
    meeting.get(a)!.delete(vertex);
    meeting.get(b)!.delete(vertex);
    link(a, b);
    link(b, a);
  }
  const whole: Edge[] = [];
  for (const [a, others] of meeting) for (const b of others) if (a < b) whole.push([a, b]);
  return whole;
}

type Place = readonly [number, number, number];

/** Whether the way from one place to another by a third is straight. */
function isBetween(a: Place, vertex: Place, b: Place): boolean {
  const [ux, uy, uz] = [vertex[0] - a[0], vertex[1] - a[1], vertex[2] - a[2]];
  const [vx, vy, vz] = [b[0] - vertex[0], b[1] - vertex[1], b[2] - vertex[2]];
  const size = Math.hypot(ux, uy, uz) * Math.hypot(vx, vy, vz);
  const turn = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
  return ux * vx + uy * vy + uz * vz > 0 && turn <= STRAIGHT * size;
}

function facesOf(mesh: WeldedMesh): SolidFace[] {
  const { triangles, normals } = mesh;
  const count = triangles.length / 3;
  const across = new Map<string, number[]>();
  for (let corner = 0; corner < triangles.length; corner++) {
    const [a, b] = [triangles[corner]!, triangles[corner % 3 === 2 ? corner - 2 : corner + 1]!];
    const key = a < b ? `${a} ${b}` : `${b} ${a}`;
    const known = across.get(key);
    const triangle = Math.floor(corner / 3);
    if (known) known.push(triangle);
    else across.set(key, [triangle]);
  }
  const isTaken = new Uint8Array(count);
  const faces: SolidFace[] = [];
  for (let seed = 0; seed < count; seed++) {
    if (isTaken[seed]) continue;
    isTaken[seed] = 1;
    const [nx, ny, nz] = [normals[3 * seed]!, normals[3 * seed + 1]!, normals[3 * seed + 2]!];
    const open = [seed];
    let [area, x, y, z] = [0, 0, 0, 0];
    const origin = at(mesh, triangles[3 * seed]!);
    for (let triangle = open.pop(); triangle !== undefined; triangle = open.pop()) {
      const first = 3 * triangle;
      const place = (k: number): Place => at(mesh, triangles[first + k]!);
      const [a, b, c] = [place(0), place(1), place(2)];
      const size = areaOf(a, b, c);
      area += size;
      x += (size * (a[0] - origin[0] + (b[0] - origin[0]) + (c[0] - origin[0]))) / 3;
      y += (size * (a[1] - origin[1] + (b[1] - origin[1]) + (c[1] - origin[1]))) / 3;
      z += (size * (a[2] - origin[2] + (b[2] - origin[2]) + (c[2] - origin[2]))) / 3;
      for (let side = 0; side < 3; side++) {
        const [p, q] = [triangles[3 * triangle + side]!, triangles[3 * triangle + ((side + 1) % 3)]!];
        for (const next of across.get(p < q ? `${p} ${q}` : `${q} ${p}`)!) {
          if (isTaken[next]) continue;
          const cosine = nx * normals[3 * next]! + ny * normals[3 * next + 1]! + nz * normals[3 * next + 2]!;
          if (cosine < 1 - PLANE) continue;
          isTaken[next] = 1;
          open.push(next);
        }
      }
    }
    const centre = { x: origin[0] + x / area, y: origin[1] + y / area, z: origin[2] + z / area };
    faces.push({ normal: { x: nx, y: ny, z: nz }, centre, area });
  }
  return faces;
}

function areaOf(a: Place, b: Place, c: Place): number {
  const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
}
