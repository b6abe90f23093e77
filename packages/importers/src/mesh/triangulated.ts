/** Faces of more corners that aren't convex are taken for convex: cutting off ears takes the square of their number. */
const MOST_EARS = 3000;

/**
 * Triangles that fill a face. Convex ones are fanned; of others ears are cut off (G. H. Meisters, "Polygons have ears",
 * The American Mathematical Monthly 82, 1975).
 * @param corners vertices in order
 * @param xyz coordinates of all vertices
 * @returns three vertices each
 */
export function triangulated(corners: ArrayLike<number>, xyz: ArrayLike<number>): number[] {
  const count = corners.length;
  if (count === 3) return [corners[0]!, corners[1]!, corners[2]!];
  const flat = inPlane(corners, xyz);
  if (count > MOST_EARS || isConvex(flat)) {
    const fan: number[] = [];
    for (let k = 1; k + 1 < count; k++) fan.push(corners[0]!, corners[k]!, corners[k + 1]!);
    return fan;
  }
  return cutEars(flat).map((k) => corners[k]!);
}

/** The face as it is seen along its normal's largest part, anticlockwise: x and y in turns (M. Newell's normal). */
function inPlane(corners: ArrayLike<number>, xyz: ArrayLike<number>): Float64Array {
  const count = corners.length;
  const at = (k: number, axis: number): number => xyz[3 * corners[k % count]! + axis]! - xyz[3 * corners[0]! + axis]!;
  const normal = [0, 1, 2].map((axis) => {
    const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
    let sum = 0;
    for (let k = 0; k < count; k++) sum += (at(k, u) - at(k + 1, u)) * (at(k, v) + at(k + 1, v));
    return sum;
  });
  const sizes = normal.map(Math.abs);
  const axis = sizes.indexOf(Math.max(...sizes));
  const turned = normal[axis]! < 0;
  const [u, v] = turned ? [(axis + 2) % 3, (axis + 1) % 3] : [(axis + 1) % 3, (axis + 2) % 3];
  const flat = new Float64Array(2 * count);
  for (let k = 0; k < count; k++) {
    flat[2 * k] = at(k, u);
    flat[2 * k + 1] = at(k, v);
  }
  return flat;
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
