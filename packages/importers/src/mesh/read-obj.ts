import { Growable } from '@gull-pane/core/geometry/growable';
import type { Warnings } from '../warnings.ts';
import { triangulated, type FilledFace } from './triangulated.ts';

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
 * @param text the whole file
 */
export function readObj(text: string, warnings: Warnings): MeshObject[] {
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
  eachLine(text, (line) => {
    const gap = line.search(/\s/);
    const word = gap < 0 ? line : line.slice(0, gap);
    if (word === 'v') {
      const [x, y, z, ...more] = numbersIn(line, gap);
      xyz.append([x ?? Number.NaN, y ?? Number.NaN, z ?? Number.NaN]);
      // three more numbers are a colour; one is a weight
      if (more.length >= 3) {
        while (rgb.length < xyz.length - 3) rgb.push(NO_COLOUR);
        rgb.append(more.slice(0, 3).map((share) => 255 * Math.min(Math.max(share, 0), 1)));
      }
    } else if (word === 'f') {
      const corners = cornersIn(line, gap, xyz.length / 3);
      (faces ??= facesNow()).append([corners.length, ...corners]);
    } else if (word === 'o' || word === 'g') [name, faces] = [line.slice(gap + 1).trim(), null];
    else if (word === 'usemtl') [material, faces] = [line.slice(gap + 1).trim() || NO_MATERIAL, null];
    else if (word === 'l') {
      const ends = cornersIn(line, gap, xyz.length / 3);
      (faces ??= facesNow()).append([-ends.length, ...ends]);
    } else if (word === 'p') {
      faces ??= facesNow();
      let own = points.get(faces);
      if (!own) points.set(faces, (own = new Growable(Float64Array)));
      own.append(cornersIn(line, gap, xyz.length / 3));
    }
  });
  let unnamed = 0;
  let [missing, tangled] = [0, 0];
  const positions = xyz.view();
  while (rgb.length > 0 && rgb.length < xyz.length) rgb.push(NO_COLOUR);
  const found = Array.from(objects, ([called, parts]) => ({
    name: called || `Object ${++unnamed}`,
    parts: Array.from(parts).flatMap(([of, own]): MeshPart[] => {
      const { part, ...left } = buildPart(own.view(), positions, rgb.view());
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

/** Lines without what is around them and without comments; a line that ends with a backslash goes on in the next. */
function eachLine(text: string, take: (line: string) => void): void {
  let held = '';
  for (let at = 0; at < text.length;) {
    let end = text.indexOf('\n', at);
    if (end < 0) end = text.length;
    const line = text.slice(at, end).trim();
    at = end + 1;
    if (line.endsWith('\\')) {
      held += `${line.slice(0, -1)} `;
      continue;
    }
    const whole = held + line;
    held = '';
    if (whole !== '' && !whole.startsWith('#')) take(whole);
  }
  if (held !== '') take(held.trim());
}

const numbersIn = (line: string, from: number): number[] =>
  line
    .slice(from + 1)
    .trim()
    .split(/\s+/)
    .map(Number);

/** Vertices of a face, from 0; below 0 those that are no numbers. @param count vertices so far */
function cornersIn(line: string, from: number, count: number): number[] {
  return line
    .slice(from + 1)
    .trim()
    .split(/\s+/)
    .map((corner) => {
      const number = Number.parseInt(corner, 10);
      if (!Number.isFinite(number) || number === 0) return -1;
      return number > 0 ? number - 1 : count + number;
    });
}

/** Where a vertex has no colour of its own, but others have: a light grey. */
const NO_COLOUR = 190;

/** @param rgb of all vertices; empty if none has a colour */
function buildPart(
  faces: Float64Array,
  xyz: Float64Array,
  rgb: Uint8Array,
): { readonly part: Omit<MeshPart, 'material'>; readonly missing: number; readonly tangled: number } {
  const count = xyz.length / 3;
  const ownOf = new Map<number, number>();
  const positions = new Growable(Float64Array);
  const colours = new Growable(Uint8Array);
  const triangles = new Growable(Uint32Array);
  const edges = new Growable(Uint32Array);
  const own = (vertex: number): number => {
    let number = ownOf.get(vertex);
    if (number === undefined) {
      number = positions.length / 3;
      ownOf.set(vertex, number);
      positions.append([xyz[3 * vertex]!, xyz[3 * vertex + 1]!, xyz[3 * vertex + 2]!]);
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
    const corners = faces.subarray(at + 1, next);
    const isLine = faces[at]! < 0;
    if (corners.length < (isLine ? 2 : 3)) continue;
    if (corners.some((vertex) => vertex < 0 || vertex >= count)) {
      missing++;
      continue;
    }
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
