import { triangulate } from '@gull-pane/core/drawing/triangulate';

/** Ears are cut off faces of up to so many corners: the time for it grows with the square of their number at least. */
const MOST_EARS = 100;

/** How a face is filled. */
export interface FilledFace {
  /** Three each: vertices, or from {@link firstNew} on places that the face had to be given. */
  readonly triangles: readonly number[];
  /** x, y, z of new places, where a large face was cut into pieces or crosses itself. */
  readonly places: readonly number[];
  /** Number of the first new place: that of all vertices. */
  readonly firstNew: number;
}

/**
 * Triangles that fill a face. Convex ones are fanned; of others ears are cut off (G. H. Meisters, "Polygons have ears",
 * The American Mathematical Monthly 82, 1975); those of many corners are filled as areas of a drawing are.
 * @param corners vertices in order
 * @param xyz coordinates of all vertices
 * @returns null if the face crosses itself too often to be filled
 */
export function triangulated(corners: ArrayLike<number>, xyz: ArrayLike<number>): FilledFace | null {
  const count = corners.length;
  const filled = (triangles: readonly number[]): FilledFace => ({ triangles, places: [], firstNew: xyz.length / 3 });
  if (count === 3) return filled([corners[0]!, corners[1]!, corners[2]!]);
  if (count === 4 && isConvexQuad(corners, xyz)) {
    const [a, b, c, d] = [corners[0]!, corners[1]!, corners[2]!, corners[3]!];
    return filled([a, b, c, a, c, d]);
  }
  const seen = inPlane(corners, xyz);
  if (isConvex(seen.flat)) {
    const fan: number[] = [];
    for (let k = 1; k + 1 < count; k++) fan.push(corners[0]!, corners[k]!, corners[k + 1]!);
    return filled(fan);
  }
  if (count <= MOST_EARS) return filled(cutEars(seen.flat).map((k) => corners[k]!));
  return filledAsArea(corners, xyz, seen);
}

/**
 * Whether a face of four corners is convex, as it is seen along the largest part of its normal: most faces are such.
 * @param first where in the list its corners begin
 */
export function isConvexQuad(corners: ArrayLike<number>, xyz: ArrayLike<number>, first = 0): boolean {
  const a = 3 * corners[first]!;
  const b = 3 * corners[first + 1]!;
  const c = 3 * corners[first + 2]!;
  const d = 3 * corners[first + 3]!;
  // its normal is across both diagonals
  const [px, py, pz] = [xyz[c]! - xyz[a]!, xyz[c + 1]! - xyz[a + 1]!, xyz[c + 2]! - xyz[a + 2]!];
  const [qx, qy, qz] = [xyz[d]! - xyz[b]!, xyz[d + 1]! - xyz[b + 1]!, xyz[d + 2]! - xyz[b + 2]!];
  const [nx, ny, nz] = [py * qz - pz * qy, pz * qx - px * qz, px * qy - py * qx];
  const [acrossX, acrossY, acrossZ] = [Math.abs(nx), Math.abs(ny), Math.abs(nz)];
  const axis = acrossX >= acrossY && acrossX >= acrossZ ? 0 : acrossY >= acrossZ ? 1 : 2;
  const isTurned = (axis === 0 ? nx : axis === 1 ? ny : nz) < 0;
  const [next, last] = [(axis + 1) % 3, (axis + 2) % 3];
  const [u, v] = isTurned ? [last, next] : [next, last];
  // sides as they are seen; each turns to the left of the one before
  const [abU, abV] = [xyz[b + u]! - xyz[a + u]!, xyz[b + v]! - xyz[a + v]!];
  const [bcU, bcV] = [xyz[c + u]! - xyz[b + u]!, xyz[c + v]! - xyz[b + v]!];
  const [cdU, cdV] = [xyz[d + u]! - xyz[c + u]!, xyz[d + v]! - xyz[c + v]!];
  const [daU, daV] = [xyz[a + u]! - xyz[d + u]!, xyz[a + v]! - xyz[d + v]!];
  return abU * bcV >= abV * bcU && bcU * cdV >= bcV * cdU && cdU * daV >= cdV * daU && daU * abV >= daV * abU;
}

function filledAsArea(corners: ArrayLike<number>, xyz: ArrayLike<number>, { flat, placeOf }: Seen): FilledFace | null {
  const area = triangulate([[...flat]], 'nonzero');
  if (!area) return null;
  const firstNew = xyz.length / 3;
  const cornerAt = new Map<string, number>();
  for (let k = 0; k < corners.length; k++) cornerAt.set(`${flat[2 * k]} ${flat[2 * k + 1]}`, corners[k]!);
  const places: number[] = [];
  const vertexAt = (u: number, v: number): number => {
    const key = `${u} ${v}`;
    let vertex = cornerAt.get(key);
    if (vertex === undefined) {
      vertex = firstNew + places.length / 3;
      cornerAt.set(key, vertex);
      places.push(...placeOf(u, v));
    }
    return vertex;
  };
  const triangles: number[] = [];
  for (let i = 0; i < area.length; i += 6) {
    const [au, av, bu, bv, cu, cv] = area.slice(i, i + 6) as [number, number, number, number, number, number];
    const isTurned = (bu - au) * (cv - av) < (bv - av) * (cu - au);
    const [a, b, c] = [vertexAt(au, av), vertexAt(bu, bv), vertexAt(cu, cv)];
    triangles.push(a, ...(isTurned ? [c, b] : [b, c]));
  }
  return { triangles, places, firstNew };
}

/** A face as it is seen along the largest part of its normal. */
interface Seen {
  /** Its corners relative to the first, anticlockwise: u and v in turns. */
  readonly flat: Float64Array;
  /** Where a point of its plane lies in space. @returns x, y, z */
  readonly placeOf: (u: number, v: number) => readonly [number, number, number];
}

/** Its normal is M. Newell's (I. E. Sutherland, R. F. Sproull, R. A. Schumacker, ACM Computing Surveys 6, 1974). */
function inPlane(corners: ArrayLike<number>, xyz: ArrayLike<number>): Seen {
  const count = corners.length;
  const first = 3 * corners[0]!;
  const base = [xyz[first]!, xyz[first + 1]!, xyz[first + 2]!];
  // about the first corner: x, y, z, and the first one again at the end
  const near = new Float64Array(3 * count + 3);
  for (let k = 0; k < count; k++)
    for (let axis = 0; axis < 3; axis++) near[3 * k + axis] = xyz[3 * corners[k]! + axis]! - base[axis]!;
  const normal = [0, 0, 0];
  for (let at = 0; at < 3 * count; at += 3) {
    normal[0]! += (near[at + 1]! - near[at + 4]!) * (near[at + 2]! + near[at + 5]!);
    normal[1]! += (near[at + 2]! - near[at + 5]!) * (near[at]! + near[at + 3]!);
    normal[2]! += (near[at]! - near[at + 3]!) * (near[at + 1]! + near[at + 4]!);
  }
  const [acrossX, acrossY, acrossZ] = [Math.abs(normal[0]!), Math.abs(normal[1]!), Math.abs(normal[2]!)];
  const axis = acrossX >= acrossY && acrossX >= acrossZ ? 0 : acrossY >= acrossZ ? 1 : 2;
  const turned = normal[axis]! < 0;
  const [u, v] = turned ? [(axis + 2) % 3, (axis + 1) % 3] : [(axis + 1) % 3, (axis + 2) % 3];
  const flat = new Float64Array(2 * count);
  for (let k = 0; k < count; k++) {
    flat[2 * k] = near[3 * k + u]!;
    flat[2 * k + 1] = near[3 * k + v]!;
  }
  const placeOf = (alongU: number, alongV: number): [number, number, number] => {
    const place: [number, number, number] = [base[0]!, base[1]!, base[2]!];
    place[u]! += alongU;
    place[v]! += alongV;
    place[axis] -= (normal[u]! * alongU + normal[v]! * alongV) / (normal[axis]! || 1);
    return place;
  };
  return { flat, placeOf };
}

/** Twice the area of a triangle, above 0 if it is anticlockwise. */
const areaOf = (p: Float64Array, a: number, b: number, c: number): number =>
  (p[2 * b]! - p[2 * a]!) * (p[2 * c + 1]! - p[2 * a + 1]!) - (p[2 * b + 1]! - p[2 * a + 1]!) * (p[2 * c]! - p[2 * a]!);

function isConvex(flat: Float64Array): boolean {
  const count = flat.length / 2;
  for (let k = 0; k < count; k++) if (areaOf(flat, k, (k + 1) % count, (k + 2) % count) < 0) return false;
  return true;
}

function cutEars(flat: Float64Array): number[] {
  const left = Array.from({ length: flat.length / 2 }, (_, k) => k);
  const triangles: number[] = [];
  for (let at = 0, passed = 0; left.length > 3;) {
    const [a, b, c] = [0, 1, 2].map((step) => left[(at + step) % left.length]!) as [number, number, number];
    // where nothing is an ear any more the face crosses itself: what is left is taken as it comes
    if (isEar(flat, left, a, b, c) || passed > left.length) {
      triangles.push(a, b, c);
      left.splice((at + 1) % left.length, 1);
      passed = 0;
      at %= left.length;
    } else {
      at = (at + 1) % left.length;
      passed++;
    }
  }
  return [...triangles, ...left];
}

function isEar(flat: Float64Array, left: readonly number[], a: number, b: number, c: number): boolean {
  if (areaOf(flat, a, b, c) <= 0) return false;
  return !left.some(
    (k) =>
      k !== a &&
      k !== b &&
      k !== c &&
      areaOf(flat, a, b, k) >= 0 &&
      areaOf(flat, b, c, k) >= 0 &&
      areaOf(flat, c, a, k) >= 0,
  );
}
