import { PairTable } from './pair-table.ts';
import { CREASE_RAD, FLAT_RAD } from './feature-edges.ts';
import type { NumbersAt, PieceRecipe } from './mesh-recipe.ts';

/** A mesh for {@link Simplify}. Lengths in drawing units. */
export interface FineMesh {
  /** Three vertices a triangle; vertices at one place are one. */
  readonly triangles: Uint32Array;
  /** x, y, z about a place nearby. */
  readonly positions: Float32Array;
  /** 1 where a vertex must stay; null where all may go. */
  readonly locks: Uint8Array | null;
  /** How far the surface may be from where it was. */
  readonly error: number;
  /** So few triangles will do: the mesh is made no coarser than they need. */
  readonly enough: number;
}

/** Makes a mesh of fewer triangles out of the vertices of another. */
export type Simplify = (mesh: FineMesh) => {
  /** Three of these vertices a triangle. */
  readonly triangles: Uint32Array;
  /** How far the surface is from where it was at most. */
  readonly error: number;
};

/** A coarser form, and how far its surface is from where it was at most. */
export interface CoarseMesh {
  readonly recipe: PieceRecipe;
  readonly error: number;
}

/** Of vertices of a mesh, 1 for each that must stay. */
export type LocksOf = (vertices: Uint32Array) => Uint8Array;

const NONE = 0xffffffff;

/**
 * A coarser form of pieces of one mesh, of vertices that these have. Surfaces stay smooth where they were: each corner takes
 * the normal that its vertex had nearest to that of the face. Edges are those of the new faces: sharp ones stand where
 * the normals of both sides differ.
 * @param pieces of one mesh and one material
 * @param positions x, y, z of the mesh's vertices
 * @param locksOf says which vertices of the mesh must stay, and between which no edge is made: others' pieces meet there
 * @param enough so few triangles will do
 */
export function coarsen(
  pieces: readonly PieceRecipe[],
  positions: NumbersAt,
  error: number,
  locksOf: LocksOf | null,
  simplify: Simplify,
  enough = 0,
): CoarseMesh {
  const fine = joinPieces(pieces);
  const locks = locksOf && locksOf(fine.vertices);
  const { triangles, error: own } = simplify({
    triangles: fine.triangles,
    positions: aboutFirst(fine.vertices, positions),
    locks,
    error,
    enough,
  });
  const hasEdges = pieces.some(({ edgeEnds }) => edgeEnds.length > 0);
  const { material } = pieces[0]!;
  const form = formFrom(fine, triangles, positions, hasEdges, locks);
  return { recipe: { ...form, ...(material === undefined ? {} : { material }) }, error: own };
}

/**
 * A form of given triangles, with the normals that their corners had and with its own edges.
 * @param triangles three of the joined vertices each
 * @param seams 1 where other pieces meet at a vertex: between two of these no edge is made
 */
export function formFrom(
  fine: Joined,
  triangles: Uint32Array,
  positions: NumbersAt,
  hasEdges: boolean,
  seams: Uint8Array | null = null,
): PieceRecipe {
  const faces = facesOf(triangles, fine.vertices, positions);
  const shaded = shadedBy(fine, triangles, faces);
  const edges = hasEdges ? edgesBetween(triangles, faces, shaded.triangles, seams) : NO_EDGES;
  return {
    vertices: valuesAt(fine.vertices, shaded.from),
    normals: shaded.normals,
    triangles: shaded.triangles,
    edgeEnds: valuesAt(fine.vertices, edges.ends),
    edgeNormals: edges.normals,
  };
}

/** Area of each of a piece's triangles, square drawing units. */
export const areasOf = ({ vertices, triangles }: PieceRecipe, positions: NumbersAt): Float64Array =>
  facesOf(triangles, vertices, positions).areas;

/** Pieces joined into one mesh; vertices at the same place are one, whatever their normals. */
export interface Joined {
  /** The mesh's vertex of each. */
  readonly vertices: Uint32Array;
  readonly triangles: Uint32Array;
  /** Where in `normals` those of each vertex begin; one more at the end. */
  readonly firstNormal: Uint32Array;
  /** x, y, z of all normals that vertices have. */
  readonly normals: Float32Array;
}

/** Pieces as one mesh: their vertices by place, with all the normals that they have there. */
export function joinPieces(pieces: readonly PieceRecipe[]): Joined {
  let [most, corners, count] = [0, 0, 0];
  for (const { vertices, triangles } of pieces) {
    corners += triangles.length;
    count += vertices.length;
    for (let i = 0; i < vertices.length; i++) if (vertices[i]! > most) most = vertices[i]!;
  }
  const numberOf = new Uint32Array(most + 1).fill(NONE);
  const vertices = new Uint32Array(count);
  const counts = new Uint32Array(count);
  const numbers = new Uint32Array(count);
  let [used, at] = [0, 0];
  for (const { vertices: own } of pieces)
    for (let i = 0; i < own.length; i++) {
      const vertex = own[i]!;
      let number = numberOf[vertex]!;
      if (number === NONE) {
        number = used++;
        vertices[number] = vertex;
        numberOf[vertex] = number;
      }
      counts[number]!++;
      numbers[at++] = number;
    }
  const firstNormal = new Uint32Array(used + 1);
  for (let vertex = 0; vertex < used; vertex++) firstNormal[vertex + 1] = firstNormal[vertex]! + counts[vertex]!;
  const normals = new Float32Array(3 * count);
  const filled = firstNormal.slice();
  const triangles = new Uint32Array(corners);
  let [first, corner] = [0, 0];
  for (const { vertices: own, normals: ownNormals, triangles: ownTriangles } of pieces) {
    for (let i = 0; i < own.length; i++) {
      const to = 3 * filled[numbers[first + i]!]!++;
      normals[to] = ownNormals[3 * i]!;
      normals[to + 1] = ownNormals[3 * i + 1]!;
      normals[to + 2] = ownNormals[3 * i + 2]!;
    }
    for (let i = 0; i < ownTriangles.length; i++) triangles[corner++] = numbers[first + ownTriangles[i]!]!;
    first += own.length;
  }
  return { vertices: vertices.slice(0, used), triangles, firstNormal, normals };
}

function valuesAt(values: Uint32Array, places: Uint32Array): Uint32Array {
  const found = new Uint32Array(places.length);
  for (let i = 0; i < places.length; i++) found[i] = values[places[i]!]!;
  return found;
}

function aboutFirst(vertices: Uint32Array, { block, start }: NumbersAt): Float32Array {
  const own = new Float32Array(3 * vertices.length);
  const first = start + 3 * (vertices[0] ?? 0);
  const [x, y, z] = [block[first]!, block[first + 1]!, block[first + 2]!];
  for (let i = 0; i < vertices.length; i++) {
    const at = start + 3 * vertices[i]!;
    own[3 * i] = block[at]! - x;
    own[3 * i + 1] = block[at + 1]! - y;
    own[3 * i + 2] = block[at + 2]! - z;
  }
  return own;
}

interface Faces {
  /** x, y, z of each triangle's unit normal. */
  readonly normals: Float64Array;
  readonly areas: Float64Array;
}

function facesOf(triangles: Uint32Array, vertices: Uint32Array, { block, start }: NumbersAt): Faces {
  const normals = new Float64Array(triangles.length);
  const areas = new Float64Array(triangles.length / 3);
  for (let t = 0; t < triangles.length; t += 3) {
    const a = start + 3 * vertices[triangles[t]!]!;
    const b = start + 3 * vertices[triangles[t + 1]!]!;
    const c = start + 3 * vertices[triangles[t + 2]!]!;
    const ux = block[b]! - block[a]!;
    const uy = block[b + 1]! - block[a + 1]!;
    const uz = block[b + 2]! - block[a + 2]!;
    const vx = block[c]! - block[a]!;
    const vy = block[c + 1]! - block[a + 1]!;
    const vz = block[c + 2]! - block[a + 2]!;
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const length = Math.sqrt(x * x + y * y + z * z);
    areas[t / 3] = length / 2;
    normals[t] = x / (length || 1);
    normals[t + 1] = y / (length || 1);
    normals[t + 2] = z / (length || 1);
  }
  return { normals, areas };
}

/** Vertices with one normal each. */
interface Shaded {
  /** The joined vertex of each. */
  readonly from: Uint32Array;
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
}

function shadedBy({ firstNormal, normals: own }: Joined, triangles: Uint32Array, { normals: faces }: Faces): Shaded {
  /** The new vertex for each normal that a vertex had. */
  const numberOf = new Uint32Array(own.length / 3).fill(NONE);
  const from = new Uint32Array(triangles.length);
  const normals = new Float32Array(3 * triangles.length);
  const renumbered = new Uint32Array(triangles.length);
  let used = 0;
  for (let corner = 0; corner < triangles.length; corner++) {
    const vertex = triangles[corner]!;
    const face = corner - (corner % 3);
    const x = faces[face]!;
    const y = faces[face + 1]!;
    const z = faces[face + 2]!;
    let most = -Infinity;
    let nearest = firstNormal[vertex]!;
    for (let normal = nearest; normal < firstNormal[vertex + 1]!; normal++) {
      const cosine = own[3 * normal]! * x + own[3 * normal + 1]! * y + own[3 * normal + 2]! * z;
      if (cosine <= most) continue;
      most = cosine;
      nearest = normal;
    }
    let number = numberOf[nearest]!;
    if (number === NONE) {
      number = used++;
      from[number] = vertex;
      normals[3 * number] = own[3 * nearest]!;
      normals[3 * number + 1] = own[3 * nearest + 1]!;
      normals[3 * number + 2] = own[3 * nearest + 2]!;
      numberOf[nearest] = number;
    }
    renumbered[corner] = number;
  }
  return { from: from.slice(0, used), normals: normals.slice(0, 3 * used), triangles: renumbered };
}

interface Edges {
  /** Two of the joined vertices an edge. */
  readonly ends: Uint32Array;
  /** Six numbers an edge: the normals of its faces. */
  readonly normals: Float32Array;
}
const NO_EDGES: Edges = { ends: new Uint32Array(0), normals: new Float32Array(0) };

/**
 * @param shaded the triangles by vertices with one normal each
 * @param seams 1 where other pieces meet at a vertex; null where there are none
 */
function edgesBetween(
  triangles: Uint32Array,
  { normals: faces }: Faces,
  shaded: Uint32Array,
  seams: Uint8Array | null,
): Edges {
  const table = new PairTable(triangles.length);
  /** The side of a triangle that each edge was first met at, and the other one. */
  const first = new Uint32Array(triangles.length);
  const other = new Uint32Array(triangles.length).fill(NONE);
  let count = 0;
  for (let side = 0; side < triangles.length; side++) {
    const a = triangles[side]!;
    const b = triangles[following(side)]!;
    const edge = table.findOrAdd(Math.min(a, b), Math.max(a, b), count);
    if (edge === count) first[count++] = side;
    else if (other[edge] === NONE) other[edge] = side; // of several, where a form is folded, two will do
  }
  const flat = Math.cos(FLAT_RAD);
  const crease = Math.cos(CREASE_RAD);
  const ends = new Uint32Array(2 * count);
  const normals = new Float32Array(6 * count);
  let kept = 0;
  for (let edge = 0; edge < count; edge++) {
    const side = first[edge]!;
    const across = other[edge]!;
    const a = triangles[side]!;
    const b = triangles[following(side)]!;
    const face = side - (side % 3);
    let sign = -1;
    let beside = face;
    if (across === NONE) {
      if (seams && seams[a] === 1 && seams[b] === 1) continue;
    } else {
      const isTurned = triangles[across] === a;
      const turn = isTurned ? -1 : 1;
      const beyond = across - (across % 3);
      const cosine =
        turn *
        (faces[face]! * faces[beyond]! + faces[face + 1]! * faces[beyond + 1]! + faces[face + 2]! * faces[beyond + 2]!);
      if (cosine > flat) continue;
      const acrossA = shaded[isTurned ? across : following(across)]!;
      const acrossB = shaded[isTurned ? following(across) : across]!;
      const isSmooth = shaded[side] === acrossA && shaded[following(side)] === acrossB;
      if (isSmooth || cosine > crease) {
        sign = turn;
        beside = beyond;
      }
    }
    ends[2 * kept] = a;
    ends[2 * kept + 1] = b;
    for (let axis = 0; axis < 3; axis++) {
      normals[6 * kept + axis] = faces[face + axis]!;
      normals[6 * kept + 3 + axis] = sign * faces[beside + axis]!;
    }
    kept++;
  }
  return { ends: ends.slice(0, 2 * kept), normals: normals.slice(0, 6 * kept) };
}

/** The next corner of the same triangle. */
const following = (corner: number): number => (corner % 3 === 2 ? corner - 2 : corner + 1);
