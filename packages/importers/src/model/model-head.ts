import { pointColumnsOf } from '../points/point-columns.ts';

/** Formats of models that are read. */
export type ModelFormat = 'gltf' | 'ifc' | ExactFormat | 'stl' | 'obj' | 'ply' | 'points';
/** Formats of exact faces. */
export type ExactFormat = 'step' | 'iges' | 'brep';

/** So much of a file's beginning tells its format. */
export const MODEL_HEAD_BYTES = 1 << 16;
/** Head of a binary STL file: 80 bytes of anything, then the number of its triangles of 50 bytes each. */
const STL_HEAD_BYTES = 84;
const STL_TRIANGLE_BYTES = 50;

/**
 * Tells a model by what its file begins with.
 * @param head the first {@link MODEL_HEAD_BYTES}, or all of it
 * @param size of the whole file, bytes
 * @returns null if it is no model
 */
export function modelFormatOf(head: Uint8Array, size: number): ModelFormat | null {
  const text = new TextDecoder('latin1').decode(head);
  if (text.startsWith('glTF')) return 'gltf';
  const words = text.trimStart();
  if (words.startsWith('ISO-10303-21;')) return /FILE_SCHEMA\s*\(\s*\(\s*'IFC/i.test(words) ? 'ifc' : 'step';
  // lines of 80 columns, the first of the start section (IGES 5.3, 2.2.4)
  if (/^[^\r\n]{72}S {0,6}0*1\s*[\r\n]/.test(text)) return 'iges';
  if (/^(DBRep_DrawableShape\s+)?CASCADE Topology V\d/.test(words)) return 'brep';
  // a map in GeoJSON says its type; a glTF document must have an asset
  if (words.startsWith('{')) {
    const isMap = /"type"\s*:\s*"(FeatureCollection|Feature|GeometryCollection|Topology)"/.test(words);
    return !isMap && /"(asset|bufferViews|accessors|meshes)"\s*:/.test(words) ? 'gltf' : null;
  }
  if (/^ply\r?\n/.test(words)) return 'ply';
  if (/^solid\b[^\n]*\n\s*(facet|endsolid)\b/.test(words)) return 'stl';
  if (isBinaryStl(head, size)) return 'stl';
  if (beginsLikeObj(text.slice(0, OBJ_HEAD))) return 'obj';
  return beginsLikePoints(text.slice(0, POINTS_HEAD), size) ? 'points' : null;
}

/** So many characters tell an OBJ. */
const OBJ_HEAD = 4096;

/** So many characters tell a list of points. */
const POINTS_HEAD = 8192;

function beginsLikePoints(text: string, size: number): boolean {
  // the last line may be cut off
  return pointColumnsOf(text.length === size ? text : text.replace(/[^\n]*$/, '')) !== null;
}

/** Nothing but comments and statements of an OBJ comes before its first vertex. */
function beginsLikeObj(text: string): boolean {
  // line by line: a pattern for all of it would try all ways to share out blank lines, on the thread that serves
  for (const line of text.split('\n').map((one) => one.trim())) {
    if (/^v\s+[-+\d.]/.test(line)) return true;
    if (line !== '' && !/^(#|(mtllib|o|g|v|vn|vt|s|usemtl)\s)/.test(line)) return false;
  }
  return false;
}

function isBinaryStl(head: Uint8Array, size: number): boolean {
  if (head.length < STL_HEAD_BYTES) return false;
  const count = new DataView(head.buffer, head.byteOffset, head.byteLength).getUint32(80, true);
  return STL_HEAD_BYTES + STL_TRIANGLE_BYTES * count === size;
}

/** Whether a file that begins so may be a model, though only its end would tell. */
export function mayBeModel(head: Uint8Array): boolean {
  return modelFormatOf(head, -1) !== null || looksLikeBinaryStl(head);
}

/** The first triangle of a binary STL: a normal of at most unit length and corners at sane places. */
function looksLikeBinaryStl(head: Uint8Array): boolean {
  if (head.length < STL_HEAD_BYTES + STL_TRIANGLE_BYTES) return false;
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  const numbers = Array.from({ length: 12 }, (_, i) => view.getFloat32(STL_HEAD_BYTES + 4 * i, true));
  const isSane = numbers.every((number) => number === 0 || (Math.abs(number) > 1e-12 && Math.abs(number) < 1e12));
  return isSane && Math.hypot(...numbers.slice(0, 3)) < 1.01 && view.getUint32(80, true) < 1 << 28;
}
