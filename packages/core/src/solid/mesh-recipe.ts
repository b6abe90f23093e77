import { Scratch } from '../geometry/scratch.ts';
import { zOrder3 } from '../spatial/z-order.ts';
import { shade } from './crease-normals.ts';
import { edgesOf, type MeshEdges } from './feature-edges.ts';
import { weld, type WeldedMesh } from './welded-mesh.ts';

const scratch = {
  taken: new Scratch(Uint32Array),
  vertices: new Scratch(Uint32Array),
  normals: new Scratch(Float32Array),
};

/** A mesh with more triangles than this is drawn in pieces, so that no tile gets out of hand. */
export const MOST_TRIANGLES = 2048;

/** Numbers that lie within a longer array. */
export interface NumbersAt {
  readonly block: Float64Array;
  readonly start: number;
}

/** How a piece of a mesh is drawn, by vertices of the mesh: wherever the mesh stands, the same. */
export interface PieceRecipe {
  /** The mesh's vertex that each vertex of the piece stands at. */
  readonly vertices: Uint32Array;
  /** Unit normals of the piece's vertices. */
  readonly normals: Float32Array;
  /** Three of the piece's vertices each. */
  readonly triangles: Uint32Array;
  /** Two of the mesh's vertices an edge. */
  readonly edgeEnds: Uint32Array;
  /** Six numbers an edge: the normals of its faces. */
  readonly edgeNormals: Float32Array;
  /** Where triangles of one mesh have several. */
  readonly material?: number;
}

/** @param mesh as a reader hands it on @returns no piece if nothing of it can be seen */
export function recipeOf(mesh: {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly edges?: Uint32Array;
  readonly materials?: Uint32Array;
}): PieceRecipe[] {
  const welded = weld(mesh.positions, mesh.triangles);
  const edges = mesh.edges ? ownEdges(mesh.edges, welded.vertexOf, edgesOf(welded, Math.PI)) : edgesOf(welded);
  if (welded.triangles.length === 0 && edges.vertices.length === 0) return [];
  const first = firstVertices(welded);
  const shaded = shade(welded);
  const count = welded.triangles.length / 3;
  const order = nearbyOrder(welded.positions, welded.triangles);
  const pieceOf = new Uint32Array(count);
  const pieces = Math.max(Math.ceil(count / MOST_TRIANGLES), 1);
  for (let place = 0; place < count; place++) pieceOf[order[place]!] = Math.floor((place * pieces) / count);
  const numbers = new Uint32Array(pieces > 1 || mesh.materials ? shaded.source.length : 0);
  let at = 0;
  return edgesByPiece(edges.faces, pieceOf, pieces).flatMap((own, piece) => {
    const from = at;
    while (at < count && pieceOf[order[at]!] === piece) at++;
    const chosen = order.subarray(from, at);
    const ends = endsOf(first, edges, own);
    const { materials } = mesh;
    if (!materials) return [{ ...trianglesOf(first, shaded, chosen, numbers), ...ends }];
    return Array.from(byMaterial(chosen, materials, welded.triangleOf), ([material, triangles], place) => ({
      ...trianglesOf(first, shaded, Uint32Array.from(triangles), numbers),
      ...(place === 0 ? ends : NO_EDGES),
      material,
    }));
  });
}

const NO_EDGES = { edgeEnds: new Uint32Array(0), edgeNormals: new Float32Array(0) };

/** Triangles by their material. */
function byMaterial(chosen: Uint32Array, materials: Uint32Array, triangleOf: Uint32Array): Map<number, number[]> {
  const groups = new Map<number, number[]>();
  for (const triangle of chosen) {
    const material = materials[triangleOf[triangle]!]!;
    const group = groups.get(material);
    if (group) group.push(triangle);
    else groups.set(material, [triangle]);
  }
  return groups;
}

/** The numbers of the edges of each piece, in their order. */
function edgesByPiece(faces: Uint32Array, pieceOf: Uint32Array, pieces: number): Uint32Array[] {
  const first = new Uint32Array(pieces + 1);
  for (let edge = 0; edge < faces.length; edge++) first[(pieceOf[faces[edge]!] ?? 0) + 1]!++;
  for (let piece = 0; piece < pieces; piece++) first[piece + 1]! += first[piece]!;
  const sorted = new Uint32Array(faces.length);
  const filled = first.slice();
  for (let edge = 0; edge < faces.length; edge++) sorted[filled[pieceOf[faces[edge]!] ?? 0]!++] = edge;
  return Array.from({ length: pieces }, (_, piece) => sorted.subarray(first[piece], first[piece + 1]));
}

/** A vertex of the source for each welded one. */
function firstVertices({ positions, vertexOf }: WeldedMesh): Uint32Array {
  const first = new Uint32Array(positions.length / 3);
  for (let vertex = vertexOf.length - 1; vertex >= 0; vertex--) first[vertexOf[vertex]!] = vertex;
  return first;
}

/**
 * The source's own edges, which are always drawn, each once; between them the others only as silhouettes.
 * @param found all edges of the mesh, as if none were sharp
 */
function ownEdges(edges: Uint32Array, vertexOf: Uint32Array, found: MeshEdges): MeshEdges {
  const keyOf = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);
  const own = new Set<string>();
  const vertices: number[] = [];
  const normals: number[] = [];
  const faces: number[] = [];
  for (let i = 0; i + 1 < edges.length; i += 2) {
    const [a, b] = [vertexOf[edges[i]!]!, vertexOf[edges[i + 1]!]!];
    const key = keyOf(a, b);
    if (a === b || own.has(key)) continue;
    own.add(key);
    vertices.push(a, b);
    normals.push(0, 0, 1, 0, 0, -1);
    faces.push(0);
  }
  found.faces.forEach((face, edge) => {
    const [a, b] = [found.vertices[2 * edge]!, found.vertices[2 * edge + 1]!];
    const both = found.normals.subarray(6 * edge, 6 * edge + 6);
    const isBorder = [0, 1, 2].every((axis) => both[axis] === -both[axis + 3]!);
    if (isBorder || own.has(keyOf(a, b))) return;
    vertices.push(a, b);
    normals.push(...both);
    faces.push(face);
  });
  return { vertices: Uint32Array.from(vertices), normals: Float64Array.from(normals), faces: Uint32Array.from(faces) };
}

/** @param numbers one for each vertex, of any value: the numbers that vertices have in a piece are kept there */
function trianglesOf(
  first: Uint32Array,
  { source, normals, triangles }: ReturnType<typeof shade>,
  chosen: Uint32Array,
  numbers: Uint32Array,
): Pick<PieceRecipe, 'vertices' | 'normals' | 'triangles'> {
  if (3 * chosen.length === triangles.length) return wholeMesh(first, { source, normals, triangles }, chosen);
  const taken = scratch.taken.take(3 * chosen.length);
  const vertices = scratch.vertices.take(3 * chosen.length);
  const own = scratch.normals.take(9 * chosen.length);
  const indices = new Uint32Array(3 * chosen.length);
  let used = 0;
  for (let place = 0; place < chosen.length; place++)
    for (let k = 0; k < 3; k++) {
      const vertex = triangles[3 * chosen[place]! + k]!;
      // a number counts if the piece has that vertex there: those of other pieces needn't be wiped off
      let next = numbers[vertex]!;
      if (next >= used || taken[next] !== vertex) {
        next = used++;
        numbers[vertex] = next;
        taken[next] = vertex;
        vertices[next] = first[source[vertex]!]!;
        for (let axis = 0; axis < 3; axis++) own[3 * next + axis] = normals[3 * vertex + axis]!;
      }
      indices[3 * place + k] = next;
    }
  return { vertices: vertices.slice(0, used), normals: own.slice(0, 3 * used), triangles: indices };
}

/** All triangles of a mesh in an order. */
function wholeMesh(
  first: Uint32Array,
  { source, normals, triangles }: ReturnType<typeof shade>,
  order: Uint32Array,
): Pick<PieceRecipe, 'vertices' | 'normals' | 'triangles'> {
  const vertices = new Uint32Array(source.length);
  for (let vertex = 0; vertex < source.length; vertex++) vertices[vertex] = first[source[vertex]!]!;
  const ordered = new Uint32Array(triangles.length);
  for (let place = 0; place < order.length; place++)
    for (let k = 0; k < 3; k++) ordered[3 * place + k] = triangles[3 * order[place]! + k]!;
  return { vertices, normals, triangles: ordered };
}

function endsOf(
  first: Uint32Array,
  edges: MeshEdges,
  chosen: Uint32Array,
): Pick<PieceRecipe, 'edgeEnds' | 'edgeNormals'> {
  const edgeEnds = new Uint32Array(2 * chosen.length);
  const edgeNormals = new Float32Array(6 * chosen.length);
  for (let place = 0; place < chosen.length; place++) {
    const edge = chosen[place]!;
    edgeEnds[2 * place] = first[edges.vertices[2 * edge]!]!;
    edgeEnds[2 * place + 1] = first[edges.vertices[2 * edge + 1]!]!;
    for (let k = 0; k < 6; k++) edgeNormals[6 * place + k] = edges.normals[6 * edge + k]!;
  }
  return { edgeEnds, edgeNormals };
}

/** So few triangles needn't be sorted. */
const FEW = 64;
/** A double holds whole numbers of 53 bits; a place on the curve has 30. */
const MOST_COUNT_BITS = 23;

/** Triangles in an order where neighbours follow each other: so runs of them have small boxes. */
function nearbyOrder(positions: Float64Array, triangles: Uint32Array): Uint32Array {
  const count = triangles.length / 3;
  const order = new Uint32Array(count);
  for (let t = 0; t < count; t++) order[t] = t;
  if (count < FEW) return order;
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let axis = 0; axis < 3; axis++) {
    let least = Infinity;
    let most = -Infinity;
    for (let i = axis; i < positions.length; i += 3) {
      if (positions[i]! < least) least = positions[i]!;
      if (positions[i]! > most) most = positions[i]!;
    }
    low[axis] = least;
    high[axis] = most;
  }
  const size = 3 * Math.max(...high.map((value, axis) => value - low[axis]!), Number.MIN_VALUE);
  // place and number in one whole number that a double holds: so they are sorted without being compared one by one
  const places = new Float64Array(count);
  const coarser = Math.max(2 ** Math.ceil(Math.log2(count) - MOST_COUNT_BITS), 1);
  for (let t = 0; t < count; t++) {
    const a = 3 * triangles[3 * t]!;
    const b = 3 * triangles[3 * t + 1]!;
    const c = 3 * triangles[3 * t + 2]!;
    const place = zOrder3(
      (positions[a]! + positions[b]! + positions[c]! - 3 * low[0]!) / size,
      (positions[a + 1]! + positions[b + 1]! + positions[c + 1]! - 3 * low[1]!) / size,
      (positions[a + 2]! + positions[b + 2]! + positions[c + 2]! - 3 * low[2]!) / size,
    );
    places[t] = Math.floor(place / coarser) * count + t;
  }
  places.sort();
  for (let t = 0; t < count; t++) order[t] = places[t]! % count;
  return order;
}
