import { Growable } from './growable.ts';
import { flatCorners, hullPlanes, nearFirst, type Plane } from './hull3.ts';

/** So many points are kept before the hull is made anew, which takes a microsecond a point; more where it has many corners itself. */
const PENDING_POINTS = 8000;
/** Of a hull with more faces than this only its inner box is asked whether a point lies inside: asking all of them takes as long. */
const FEW_FACES = 64;

/** Takes points one by one and keeps only those that can be extreme; memory stays bounded. */
export class HullBuilder3 {
  readonly #points = new Growable(Float64Array);
  #corners = new Float64Array(0);
  /** A box that lies inside the hull, least and largest coordinates: most points are dropped by six comparisons. */
  #inner: readonly number[] | null = null;
  /** The point that the faces are relative to. */
  #base = new Float64Array(3);
  /** The hull so far: normal and reach of each face, four numbers, about the base. */
  #faces = new Float64Array(0);

  add(x: number, y: number, z: number): void {
    if (this.#isInBox(x, y, z) || this.#isInside(x, y, z)) return;
    this.#keep(x, y, z);
    this.#reduceMany();
  }

  /** Takes points that are the corners of a hull by themselves: most of them are kept, so that few are worth being asked about. */
  addCorners(points: ArrayLike<number>): void {
    for (let i = 0; i < points.length; i += 3) {
      const [x, y, z] = [points[i]!, points[i + 1]!, points[i + 2]!];
      if (!this.#isInBox(x, y, z)) this.#keep(x, y, z);
    }
    this.#reduceMany();
  }

  /** Whether all that lies in a box, least and largest coordinates, is known to lie inside. */
  contains(box: ArrayLike<number>): boolean {
    const faces = this.#faces;
    if (faces.length === 0) return false;
    const [hx, hy, hz] = [(box[3]! - box[0]!) / 2, (box[4]! - box[1]!) / 2, (box[5]! - box[2]!) / 2];
    const dx = box[0]! + hx - this.#base[0]!;
    const dy = box[1]! + hy - this.#base[1]!;
    const dz = box[2]! + hz - this.#base[2]!;
    for (let i = 0; i < faces.length; i += 4) {
      const [x, y, z] = [faces[i]!, faces[i + 1]!, faces[i + 2]!];
      const farthest = x * dx + y * dy + z * dz + Math.abs(x) * hx + Math.abs(y) * hy + Math.abs(z) * hz;
      if (farthest > faces[i + 3]!) return false;
    }
    return true;
  }

  /** @returns x, y, z triples of the hull of everything added so far */
  hull(): Float64Array {
    this.#reduce();
    return this.#corners;
  }

  #isInBox(x: number, y: number, z: number): boolean {
    const box = this.#inner;
    if (!box) return false;
    return x >= box[0]! && y >= box[1]! && z >= box[2]! && x <= box[3]! && y <= box[4]! && z <= box[5]!;
  }

  #isInside(x: number, y: number, z: number): boolean {
    const faces = this.#faces;
    if (faces.length === 0 || faces.length > 4 * FEW_FACES) return false;
    const [dx, dy, dz] = [x - this.#base[0]!, y - this.#base[1]!, z - this.#base[2]!];
    for (let i = 0; i < faces.length; i += 4)
      if (faces[i]! * dx + faces[i + 1]! * dy + faces[i + 2]! * dz > faces[i + 3]!) return false;
    return true;
  }

  #keep(x: number, y: number, z: number): void {
    this.#points.push(x);
    this.#points.push(y);
    this.#points.push(z);
  }

  #reduceMany(): void {
    if (this.#points.length >= Math.max(3 * PENDING_POINTS, this.#corners.length)) this.#reduce();
  }

  #reduce(): void {
    if (this.#points.length === 0) return;
    const all = new Float64Array(this.#corners.length + this.#points.length);
    all.set(this.#corners);
    all.set(this.#points.view(), this.#corners.length);
    const near = nearFirst(all);
    const planes = hullPlanes(near);
    const chosen = [...(planes ? new Set(planes.flatMap((plane) => plane.corners)) : flatCorners(near))];
    const pick = (points: Float64Array): Float64Array<ArrayBuffer> => {
      const picked = new Float64Array(3 * chosen.length);
      chosen.forEach((corner, i) => picked.set(points.subarray(3 * corner, 3 * corner + 3), 3 * i));
      return picked;
    };
    this.#base = all.slice(0, 3);
    this.#corners = pick(all);
    this.#points.clear();
    this.#faces = Float64Array.from((planes ?? []).flatMap(({ normal, reach }) => [...normal, reach]));
    const corners = pick(near);
    this.#inner = planes && innerBox(this.#base, corners, planes);
  }
}

/**
 * A box about the middle of a hull's corners that lies wholly inside; null if only a tiny one does.
 * @param near the corners relative to the base
 */
function innerBox(base: Float64Array, near: Float64Array, planes: readonly Plane[]): number[] | null {
  const count = near.length / 3;
  const sums = [0, 0, 0];
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  near.forEach((value, i) => {
    const axis = i % 3;
    sums[axis]! += value / count;
    low[axis] = Math.min(low[axis]!, value);
    high[axis] = Math.max(high[axis]!, value);
  });
  for (let share = 0.5; share > 0.05; share *= 0.8) {
    const reach = low.map((value, axis) => (share * (high[axis]! - value)) / 2);
    const fits = planes.every(({ normal, reach: limit }) => {
      const farthest = normal.reduce(
        (sum, value, axis) => sum + value * sums[axis]! + Math.abs(value) * reach[axis]!,
        0,
      );
      return farthest < limit;
    });
    const ends = (sign: 1 | -1): number[] => sums.map((value, axis) => base[axis]! + value + sign * reach[axis]!);
    if (fits) return [...ends(-1), ...ends(1)];
  }
  return null;
}
