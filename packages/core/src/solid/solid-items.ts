import { Growable } from '../geometry/growable.ts';
import { shade } from './crease-normals.ts';
import { edgesOf, type MeshEdges } from './feature-edges.ts';
import type { SolidPart } from './solid-model.ts';
import { zOrder3 } from '../spatial/z-order.ts';
import { weld } from './welded-mesh.ts';

/** A part with more triangles than this is placed in pieces, so that no tile gets out of hand. */
export const MOST_TRIANGLES = 2048;

/** A piece of a part as it is drawn. Positions in drawing units. */
export interface SolidPiece {
  /** x, y, z a vertex. */
  readonly positions: Float64Array;
  /** Unit normals of the vertices. */
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
  /** Two ends an edge, x, y, z each. */
  readonly edgePositions: Float64Array;
  /** Six numbers an edge: the normals of its faces. */
  readonly edgeNormals: Float32Array;
}

/** Everything that tiles of a solid are made of. */
export class SolidItems {
  readonly dimensions = 3;
  readonly pieces: SolidPiece[] = [];
  readonly object = new Growable(Uint32Array);
  readonly material = new Growable(Uint32Array);
  /** What drawing it costs: triangles and edges. */
  readonly weight = new Growable(Uint32Array);
  /** The least coordinates, then the largest, of each item. */
  readonly boxes = new Growable(Float64Array);

  get length(): number {
    return this.pieces.length;
  }

  /** Longest side of its box. */
  sizeOf(item: number): number {
    const at = 6 * item;
    const box = this.boxes;
    return Math.max(...[box.at(at + 3) - box.at(at), box.at(at + 4) - box.at(at + 1), box.at(at + 5) - box.at(at + 2)]);
  }

  /** Takes a part apart into pieces with smooth normals and edges. @returns how many triangles it has that have an area */
  add(part: SolidPart): number {
    const mesh = weld(part.positions, part.triangles);
    const edges = part.edges ? ownEdges(part.edges, mesh.vertexOf, edgesOf(mesh, Math.PI)) : edgesOf(mesh);
    if (mesh.triangles.length === 0 && edges.vertices.length === 0) return 0;
    const shaded = shade(mesh);
    const count = mesh.triangles.length / 3;
    const order = nearbyOrder(mesh.positions, mesh.triangles);
    const pieceOf = new Uint32Array(count);
    const pieces = Math.max(Math.ceil(count / MOST_TRIANGLES), 1);
    order.forEach((triangle, place) => {
      pieceOf[triangle] = Math.floor((place * pieces) / count);
    });
    const edgesOfPiece = Array.from({ length: pieces }, (): number[] => []);
    edges.faces.forEach((face, edge) => edgesOfPiece[pieceOf[face] ?? 0]!.push(edge));
    let at = 0;
    for (let piece = 0; piece < pieces; piece++) {
      const from = at;
      while (at < count && pieceOf[order[at]!] === piece) at++;
      const own = pieceFrom(mesh.positions, shaded, order.subarray(from, at), edges, edgesOfPiece[piece]!);
      this.#add(part, own);
    }
    return count;
  }

  #add({ object, material }: SolidPart, piece: SolidPiece): void {
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (const values of [piece.positions, piece.edgePositions])
      for (let i = 0; i < values.length; i++) {
        const axis = i % 3;
        const value = values[i]!;
        if (value < box[axis]!) box[axis] = value;
        if (value > box[axis + 3]!) box[axis + 3] = value;
      }
    this.pieces.push(piece);
    this.object.push(object);
    this.material.push(material);
    this.weight.push(piece.triangles.length / 3 + piece.edgePositions.length / 6);
    this.boxes.append(box);
  }
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

function pieceFrom(
  places: Float64Array,
  { source, normals, triangles }: ReturnType<typeof shade>,
  chosen: Uint32Array,
  edges: MeshEdges,
  ownEdgeNumbers: readonly number[],
): SolidPiece {
  const renumbered = new Map<number, number>();
  const isWhole = 3 * chosen.length === triangles.length;
  const most = isWhole ? source.length : Math.min(3 * chosen.length, source.length);
  const positions = new Float64Array(3 * most);
  const own = new Float32Array(3 * most);
  const take = (vertex: number, next: number): void => {
    const at = 3 * source[vertex]!;
    for (let axis = 0; axis < 3; axis++) {
      positions[3 * next + axis] = places[at + axis]!;
      own[3 * next + axis] = normals[3 * vertex + axis]!;
    }
  };
  const indices = new Uint32Array(3 * chosen.length);
  if (isWhole) for (let vertex = 0; vertex < source.length; vertex++) take(vertex, vertex);
  for (let place = 0; place < chosen.length; place++)
    for (let k = 0; k < 3; k++) {
      const vertex = triangles[3 * chosen[place]! + k]!;
      let next: number | undefined = vertex;
      if (!isWhole) {
        next = renumbered.get(vertex);
        if (next === undefined) {
          next = renumbered.size;
          renumbered.set(vertex, next);
          take(vertex, next);
        }
      }
      indices[3 * place + k] = next;
    }
  const used = isWhole ? source.length : renumbered.size;
  const edgePositions = new Float64Array(6 * ownEdgeNumbers.length);
  const edgeNormals = new Float32Array(6 * ownEdgeNumbers.length);
  ownEdgeNumbers.forEach((edge, place) => {
    for (let end = 0; end < 2; end++) {
      const at = 3 * edges.vertices[2 * edge + end]!;
      edgePositions.set(places.subarray(at, at + 3), 6 * place + 3 * end);
    }
    edgeNormals.set(edges.normals.subarray(6 * edge, 6 * edge + 6), 6 * place);
  });
  return {
    ...{ edgePositions, edgeNormals, triangles: indices },
    positions: positions.slice(0, 3 * used),
    normals: own.slice(0, 3 * used),
  };
}

/** Triangles in an order where neighbours follow each other: so runs of them have small boxes. */
function nearbyOrder(positions: Float64Array, triangles: Uint32Array): Uint32Array {
  const count = triangles.length / 3;
  const order = new Uint32Array(count);
  for (let t = 0; t < count; t++) order[t] = t;
  if (count < FEW) return order;
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3;
    const value = positions[i]!;
    if (value < low[axis]!) low[axis] = value;
    if (value > high[axis]!) high[axis] = value;
  }
  const size = 3 * Math.max(...high.map((value, axis) => value - low[axis]!), Number.MIN_VALUE);
  const places = new Uint32Array(count);
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    places[t] = zOrder3(
      (positions[a]! + positions[b]! + positions[c]! - 3 * low[0]!) / size,
      (positions[a + 1]! + positions[b + 1]! + positions[c + 1]! - 3 * low[1]!) / size,
      (positions[a + 2]! + positions[b + 2]! + positions[c + 2]! - 3 * low[2]!) / size,
    );
  }
  return order.sort((a, b) => places[a]! - places[b]! || a - b);
}

/** So few triangles needn't be sorted. */
const FEW = 64;
