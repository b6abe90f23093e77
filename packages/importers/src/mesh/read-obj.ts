import { Growable } from '@gull-pane/core/geometry/growable';
import type { Warnings } from '../warnings.ts';
import { isConvexQuad, triangulated, type FilledFace } from './triangulated.ts';
import { WordLines } from './word-lines.ts';

/** What of an object is of one material. */
export interface MeshPart {
  /** Name of the material; `Model` if the file names none. */
  readonly material: string;
  /** x, y, z of its own vertices. */
  readonly positions: Float64Array;
  /** Three corners each. */
  readonly triangles: Uint32Array;
  /** Two ends each, where it has lines of its own. */
  readonly edges?: Uint32Array;
  /** Red, green, blue of each vertex, 0 … 255, where vertices have colours. */
  readonly colours?: Uint8Array;
  /** Every vertex is a point of its own. */
  readonly arePoints?: true;
}

export interface MeshObject {
  readonly name: string;
  readonly parts: readonly MeshPart[];
}

/** Name of the material of faces without one. */
export const NO_MATERIAL = 'Model';

/** Faces and lines of a part, one after the other: how many corners, then these; below 0 for a line of so many. */
type Faces = Growable<Float64Array>;

/**
 * Reads the surfaces of an OBJ (Wavefront, "Object files (.obj)", version 3.0): vertices, faces, objects and groups, the
 * names of materials; lines; colours of vertices, which many writers put after their coordinates. Coordinates are kept as
 * doubles, so that those of a national grid lose nothing. Faces may be of any shape; vertices may be told by how many lines
 * ago they were. Points are parts of their own. Normals, textures and curves are left out.
 * @param bytes the whole file
 */
export function readObj(bytes: Uint8Array, warnings: Warnings): MeshObject[] {
  const xyz = new Growable(Float64Array);
  const rgb = new Growable(Uint8Array);
  const objects = new Map<string, Map<string, Faces>>();
  /** Vertices that are points, by object and material. */
  const points = new Map<Faces, Growable<Float64Array>>();
  let [name, material] = ['', NO_MATERIAL];
  let faces: Faces | null = null;
  const facesNow = (): Faces => {
    let parts = objects.get(name);
    if (!parts) objects.set(name, (parts = new Map<string, Faces>()));
    let found = parts.get(material);
    if (!found) parts.set(material, (found = new Growable(Float64Array)));
    return found;
  };
  const lines = new WordLines(bytes);
  while (lines.nextLine()) {
    lines.nextWord();
    const word = lines.word();
    if (word === 'v') addVertex(lines, xyz, rgb);
    else if (word === 'f') addCorners(lines, (faces ??= facesNow()), 1, xyz.length / 3);
    else if (word === 'o' || word === 'g') [name, faces] = [lines.rest(), null];
    else if (word === 'usemtl') [material, faces] = [lines.rest() || NO_MATERIAL, null];
    else if (word === 'l') addCorners(lines, (faces ??= facesNow()), -1, xyz.length / 3);
    else if (word === 'p') {
      faces ??= facesNow();
      let own = points.get(faces);
      if (!own) points.set(faces, (own = new Growable(Float64Array)));
      while (lines.nextWord()) own.push(vertexOf(lines.leadingInteger(), xyz.length / 3));
    }
  }
  let unnamed = 0;
  let [missing, tangled] = [0, 0];
  const positions = xyz.view();
  const numbers = new OwnNumbers(positions.length / 3);
  const lists = new PartLists();
  while (rgb.length > 0 && rgb.length < xyz.length) rgb.push(NO_COLOUR);
  const found = Array.from(objects, ([called, parts]) => ({
    name: called || `Object ${++unnamed}`,
    parts: Array.from(parts).flatMap(([of, own]): MeshPart[] => {
      const { part, ...left } = buildPart(own.view(), positions, rgb.view(), numbers, lists);
      missing += left.missing;
      tangled += left.tangled;
      const set = points.get(own);
      const placed = set ? pointsPart(set.view(), positions, rgb.view()) : null;
      missing += placed?.missing ?? 0;
      return [
        ...(own.length > 0 || !placed ? [{ material: of, ...part }] : []),
        ...(placed ? [{ material: of, ...placed.part }] : []),
      ];
    }),
  }));
  if (missing > 0)
    warnings.add(
      'left-out',
      'faces, lines and points that refer to vertices which the file doesn’t have are left out',
      0,
      missing,
    );
  if (tangled > 0)
    warnings.add('left-out', 'faces that cross themselves too often to be filled are left out', 0, tangled);
  return found;
}

function pointsPart(
  vertices: Float64Array,
  xyz: Float64Array,
  rgb: Uint8Array,
): { readonly part: Omit<MeshPart, 'material'>; readonly missing: number } {
  const sound = vertices.filter((vertex) => vertex >= 0 && vertex < xyz.length / 3);
  const positions = new Float64Array(3 * sound.length);
  const colours = new Uint8Array(rgb.length > 0 ? positions.length : 0);
  sound.forEach((vertex, i) => {
    positions.set(xyz.subarray(3 * vertex, 3 * vertex + 3), 3 * i);
    if (colours.length > 0) colours.set(rgb.subarray(3 * vertex, 3 * vertex + 3), 3 * i);
  });
  return {
    part: {
      positions,
      triangles: new Uint32Array(0),
      arePoints: true,
      ...(colours.length > 0 ? { colours } : {}),
    },
    missing: vertices.length - sound.length,
  };
}

/** Three coordinates; three more numbers are a colour, one is a weight. */
function addVertex(lines: WordLines, xyz: Growable<Float64Array>, rgb: Growable<Uint8Array>): void {
  for (let axis = 0; axis < 3; axis++) xyz.push(lines.nextWord() ? lines.number() : Number.NaN);
  const colour: number[] = [];
  while (lines.nextWord()) colour.push(lines.number());
  if (colour.length < 3) return;
  while (rgb.length < xyz.length - 3) rgb.push(NO_COLOUR);
  for (const share of colour.slice(0, 3)) rgb.push(255 * Math.min(Math.max(share, 0), 1));
}

/** @param sign of the number of corners: below 0 for a line @param count vertices so far */
function addCorners(lines: WordLines, faces: Faces, sign: 1 | -1, count: number): void {
  const at = faces.length;
  faces.push(0);
  while (lines.nextWord()) faces.push(vertexOf(lines.leadingInteger(), count));
  faces.view()[at] = sign * (faces.length - at - 1);
}

/** A vertex from 0; below 0 if it is no number. @param count vertices so far, which are counted backwards below 0 */
const vertexOf = (number: number, count: number): number => {
  if (!(number !== 0 && Number.isFinite(number))) return -1;
  return number > 0 ? number - 1 : count + number;
};

/** Where a vertex has no colour of its own, but others have: a light grey. */
const NO_COLOUR = 190;

/** Where parts are put together, one after the other: there may be a hundred thousand. */
class PartLists {
  readonly positions = new Growable(Float64Array);
  readonly colours = new Growable(Uint8Array);
  readonly triangles = new Growable(Uint32Array);
  readonly edges = new Growable(Uint32Array);

  clear(): void {
    for (const list of [this.positions, this.colours, this.triangles, this.edges]) list.clear();
  }
}

/** The number that a vertex of the file has in a part. */
class OwnNumbers {
  readonly #numbers: Uint32Array;
  /** The part that the number was given in. */
  readonly #givenIn: Uint32Array;
  #part = 0;

  /** @param count vertices of the file */
  constructor(count: number) {
    this.#numbers = new Uint32Array(count);
    this.#givenIn = new Uint32Array(count);
  }

  /** Begins another part. */
  begin(): void {
    this.#part++;
  }

  /** @returns its number; the new one if it has none */
  findOrAdd(vertex: number, number: number): number {
    if (this.#givenIn[vertex] === this.#part) return this.#numbers[vertex]!;
    this.#givenIn[vertex] = this.#part;
    this.#numbers[vertex] = number;
    return number;
  }
}

/** @param rgb of all vertices; empty if none has a colour */
function buildPart(
  faces: Float64Array,
  xyz: Float64Array,
  rgb: Uint8Array,
  numbers: OwnNumbers,
  lists: PartLists,
): { readonly part: Omit<MeshPart, 'material'>; readonly missing: number; readonly tangled: number } {
  const count = xyz.length / 3;
  numbers.begin();
  lists.clear();
  const { positions, colours, triangles, edges } = lists;
  const own = (vertex: number): number => {
    const next = positions.length / 3;
    const number = numbers.findOrAdd(vertex, next);
    if (number === next) {
      for (let axis = 0; axis < 3; axis++) positions.push(xyz[3 * vertex + axis]!);
      if (rgb.length > 0) colours.append(rgb.subarray(3 * vertex, 3 * vertex + 3));
    }
    return number;
  };
  const addFace = ({ triangles: filled, places, firstNew }: FilledFace, like: number): void => {
    const before = positions.length / 3;
    positions.append(places);
    if (rgb.length > 0) for (let i = 0; i < places.length; i++) colours.push(rgb[3 * like + (i % 3)]!);
    for (const vertex of filled) triangles.push(vertex < firstNew ? own(vertex) : before + vertex - firstNew);
  };
  let [missing, tangled] = [0, 0];
  for (let at = 0, next = 0; at < faces.length; at = next) {
    next = at + 1 + Math.abs(faces[at]!);
    const isLine = faces[at]! < 0;
    const number = next - at - 1;
    if (number < (isLine ? 2 : 3)) continue;
    let isThere = true;
    for (let k = at + 1; k < next; k++) if (faces[k]! < 0 || faces[k]! >= count) isThere = false;
    if (!isThere) {
      missing++;
      continue;
    }
    // nearly all faces are such: they are taken without a list of their own
    if (!isLine && (number === 3 || (number === 4 && isConvexQuad(faces, xyz, at + 1)))) {
      for (let k = at + 2; k + 1 < next; k++) {
        triangles.push(own(faces[at + 1]!));
        triangles.push(own(faces[k]!));
        triangles.push(own(faces[k + 1]!));
      }
      continue;
    }
    const corners = faces.subarray(at + 1, next);
    if (isLine) {
      for (let k = 0; k + 1 < corners.length; k++) edges.append([own(corners[k]!), own(corners[k + 1]!)]);
      continue;
    }
    const face = triangulated(corners, xyz);
    if (!face) tangled++;
    else addFace(face, corners[0]!);
  }
  return {
    part: {
      positions: positions.view().slice(),
      triangles: triangles.view().slice(),
      ...(edges.length > 0 ? { edges: edges.view().slice() } : {}),
      ...(rgb.length > 0 ? { colours: colours.view().slice() } : {}),
    },
    missing,
    tangled,
  };
}
