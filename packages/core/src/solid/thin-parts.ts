import { add3, along3, cross3, dot3, length3, scale3, sub3, unit3, type Vec3 } from '../geometry/vec.ts';
import { formFrom, joinPieces } from './coarse-mesh.ts';
import type { MeshComponents } from './mesh-components.ts';
import type { NumbersAt, PieceRecipe } from './mesh-recipe.ts';

/** A part is a bar if it is longer than so many times the thickness of the thickest that are taken. */
const LEAST_SLENDER = 4;
/** All corners of a bar lie near its ends: no farther from one of them than this share of its length. */
const END = 0.25;
/** A second sheet across the first is left out if it is narrower than this share of it: the bar is flat. */
const FLAT = 0.4;

/** From corner to corner of a bar, drawing units. */
interface Thickness {
  readonly least: number;
  readonly most: number;
}

/** A mesh taken apart: its thin bars, and the rest of it. */
interface ThinBars {
  /** What stands for the bars; null if there are none. */
  readonly sheets: PieceRecipe | null;
  /** Without them. */
  readonly rest: PieceRecipe;
}

/**
 * Takes thin straight bars out of a mesh: cables, rods, the bars of gratings. Two sheets that cross each other stand for
 * each of them, or one if it is flat, through those of its corners that are farthest apart. From every side a bar of four corners
 * is seen as wide as before, in four triangles instead of twelve.
 * @param thickness of the bars that are taken, from corner to corner, drawing units
 */
export function takeThinBars(
  piece: PieceRecipe,
  components: MeshComponents,
  positions: NumbersAt,
  thickness: Thickness,
): ThinBars {
  const bars = new Set<number>();
  const sheets: number[] = [];
  for (const [root, vertices] of components.verticesOf(piece)) {
    const own = sheetsOfBar(vertices, positions, thickness);
    if (!own) continue;
    bars.add(root);
    sheets.push(...own);
  }
  if (bars.size === 0) return { sheets: null, rest: piece };
  const fine = joinPieces([components.kept(piece, (root) => bars.has(root))]);
  const numberOf = new Map(Array.from(fine.vertices, (vertex, number) => [vertex, number]));
  const triangles = Uint32Array.from(sheets, (vertex) => numberOf.get(vertex)!);
  const hasEdges = piece.edgeEnds.length > 0;
  return {
    sheets: { ...piece, ...formFrom(fine, triangles, positions, hasEdges) },
    rest: components.kept(piece, (root) => !bars.has(root)),
  };
}

/** Two forms of one mesh as one. */
export function joinForms(a: PieceRecipe, b: PieceRecipe): PieceRecipe {
  const first = a.vertices.length;
  return {
    ...a,
    vertices: joined(Uint32Array, a.vertices, b.vertices),
    normals: joined(Float32Array, a.normals, b.normals),
    triangles: joined(
      Uint32Array,
      a.triangles,
      b.triangles.map((vertex) => first + vertex),
    ),
    edgeEnds: joined(Uint32Array, a.edgeEnds, b.edgeEnds),
    edgeNormals: joined(Float32Array, a.edgeNormals, b.edgeNormals),
  };
}

function joined<Numbers extends Uint32Array | Float32Array>(
  make: new (length: number) => Numbers,
  a: Numbers,
  b: Numbers,
): Numbers {
  const both = new make(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}

/**
 * @param vertices of a mesh, those of one part
 * @returns three of them a triangle; null if the part is no bar, or too thin or too thick a one
 */
function sheetsOfBar(
  vertices: readonly number[],
  { block, start }: NumbersAt,
  { least, most }: Thickness,
): number[] | null {
  const at = (vertex: number): Vec3 => {
    const from = start + 3 * vertex;
    return { x: block[from]!, y: block[from + 1]!, z: block[from + 2]! };
  };
  const extreme = (among: readonly number[], measure: (place: Vec3) => number): number => {
    let [found, largest] = [among[0]!, -Infinity];
    for (const vertex of among) {
      const value = measure(at(vertex));
      if (value > largest) [found, largest] = [vertex, value];
    }
    return found;
  };
  const tip = at(extreme(vertices, (place) => length3(sub3(place, at(vertices[0]!)))));
  const end = at(extreme(vertices, (place) => length3(sub3(place, tip))));
  const length = length3(sub3(end, tip));
  if (!(length > LEAST_SLENDER * most)) return null;
  const along = unit3(sub3(end, tip));
  const nearEnd = vertices.filter((vertex) => dot3(sub3(at(vertex), tip), along) < END * length);
  const farEnd = vertices.filter((vertex) => dot3(sub3(end, at(vertex)), along) < END * length);
  // a part with corners between its ends may be thicker there
  if (nearEnd.length + farEnd.length < vertices.length) return null;
  // from corner to corner a bar is askew
  const middle = middleOf(nearEnd.map(at));
  const axis = unit3(sub3(middleOf(farEnd.map(at)), middle));
  const aside = (place: Vec3): Vec3 => {
    const away = sub3(place, middle);
    return along3(away, axis, -dot3(away, axis));
  };
  const thickness = 2 * length3(aside(at(extreme(vertices, (place) => length3(aside(place))))));
  if (thickness === 0 || thickness < least || thickness > most) return null;
  const sheet = (across: Vec3): { readonly triangles: number[]; readonly width: number } => {
    const side = (corners: readonly number[], sign: number): number =>
      extreme(corners, (place) => sign * dot3(aside(place), across));
    const [a, b, c, d] = [side(nearEnd, -1), side(nearEnd, 1), side(farEnd, 1), side(farEnd, -1)];
    return { triangles: [a, b, c, a, c, d], width: dot3(sub3(at(b), at(a)), across) };
  };
  const first = unit3(aside(at(extreme(nearEnd, (place) => length3(aside(place))))));
  const [broad, narrow] = [sheet(first), sheet(cross3(axis, first))];
  return narrow.width < FLAT * broad.width ? broad.triangles : [...broad.triangles, ...narrow.triangles];
}

const middleOf = (places: readonly Vec3[]): Vec3 => scale3(places.reduce(add3), 1 / places.length);
