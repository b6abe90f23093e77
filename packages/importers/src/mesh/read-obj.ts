import { Growable } from '@gull-pane/core/geometry/growable';
import type { Warnings } from '../warnings.ts';
import { triangulated } from './triangulated.ts';

/** What of an object is of one material. */
export interface MeshPart {
  /** Name of the material; `Model` if the file names none. */
  readonly material: string;
  /** x, y, z of its own vertices. */
  readonly positions: Float64Array;
  /** Three corners each. */
  readonly triangles: Uint32Array;
}

export interface MeshObject {
  readonly name: string;
  readonly parts: readonly MeshPart[];
}

/** Name of the material of faces without one. */
export const NO_MATERIAL = 'Model';

/** The faces of a part, one after the other: how many corners, then these. */
type Faces = Growable<Float64Array>;

/**
 * Reads the surfaces of an OBJ (Wavefront, "Object files (.obj)", version 3.0): vertices, faces, objects and groups, the
 * names of materials. Coordinates are kept as doubles, so that those of a national grid lose nothing. Faces may be of any
 * shape; vertices may be told by how many lines ago they were. Normals, textures and curves are left out.
 * @param text the whole file
 */
export function readObj(text: string, warnings: Warnings): MeshObject[] {
  const xyz = new Growable(Float64Array);
  const objects = new Map<string, Map<string, Faces>>();
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
      const [x, y, z] = numbersIn(line, gap);
      xyz.append([x ?? Number.NaN, y ?? Number.NaN, z ?? Number.NaN]);
    } else if (word === 'f') {
      const corners = cornersIn(line, gap, xyz.length / 3);
      (faces ??= facesNow()).append([corners.length, ...corners]);
    } else if (word === 'o' || word === 'g') [name, faces] = [line.slice(gap + 1).trim(), null];
    else if (word === 'usemtl') [material, faces] = [line.slice(gap + 1).trim() || NO_MATERIAL, null];
    else if (word === 'l' || word === 'p')
      warnings.add('not-supported', 'points and lines without surfaces are left out', 0);
  });
  let unnamed = 0;
  let missing = 0;
  const positions = xyz.view();
  const found = Array.from(objects, ([called, parts]) => ({
    name: called || `Object ${++unnamed}`,
    parts: Array.from(parts, ([of, own]) => {
      const built = buildPart(own.view(), positions);
      missing += built.missing;
      return { material: of, positions: built.positions, triangles: built.triangles };
    }),
  }));
  if (missing > 0)
    warnings.add('left-out', 'faces that refer to vertices which the file doesn’t have are left out', 0, missing);
  return found;
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

function buildPart(
  faces: Float64Array,
  xyz: Float64Array,
): { readonly positions: Float64Array; readonly triangles: Uint32Array; readonly missing: number } {
  const count = xyz.length / 3;
  const ownOf = new Map<number, number>();
  const positions = new Growable(Float64Array);
  const triangles = new Growable(Uint32Array);
  const own = (vertex: number): number => {
    let number = ownOf.get(vertex);
    if (number === undefined) {
      number = ownOf.size;
      ownOf.set(vertex, number);
      positions.append([xyz[3 * vertex]!, xyz[3 * vertex + 1]!, xyz[3 * vertex + 2]!]);
    }
    return number;
  };
  let missing = 0;
  for (let at = 0; at < faces.length; at += 1 + faces[at]!) {
    const corners = faces.subarray(at + 1, at + 1 + faces[at]!);
    if (corners.length < 3) continue;
    if (corners.some((vertex) => vertex < 0 || vertex >= count)) {
      missing++;
      continue;
    }
    for (const vertex of triangulated(corners, xyz)) triangles.append([own(vertex)]);
  }
  return { positions: positions.view().slice(), triangles: triangles.view().slice(), missing };
}
