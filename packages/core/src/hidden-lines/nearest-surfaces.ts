import { CORNERS, type SeenScene } from './seen-scene.ts';

/** A part of a picture that is worked on at a time, samples of the whole picture. */
export interface Band {
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** Places so little outside of a triangle still lie in it: rounding to single precision, picture's units. */
const ON_BORDER = 2e-4;

/**
 * Which triangle is nearest at each sample of a band of a picture. Samples are squares; what counts is their middle.
 * Source of the walk over a triangle: J. Pineda, "A parallel algorithm for polygon rasterization", 1988.
 */
export class NearestSurfaces {
  readonly nearness: Float32Array;
  readonly #corners: Float32Array;
  /** −1 where there is none. */
  readonly triangle: Int32Array;

  /**
   * @param perUnit samples in a unit of the picture
   * @param slack how much nearer a surface must be to hide a place of a nearness, at one place
   */
  constructor(
    scene: SeenScene,
    private readonly band: Band,
    private readonly perUnit: number,
    private readonly slack: (nearness: number) => number,
  ) {
    this.#corners = scene.corners.view();
    this.nearness = new Float32Array(band.width * band.height).fill(-Infinity);
    this.triangle = new Int32Array(band.width * band.height).fill(-1);
    for (let triangle = 0; triangle < scene.triangleCount; triangle++) this.#draw(triangle);
  }

  #draw(triangle: number): void {
    const { top, width } = this.band;
    walkTriangle(this.#corners, triangle, this.perUnit, this.band, (y, from, to, at, slope) => {
      let index = (y - top) * width + from;
      let nearness = at;
      for (let x = from; x < to; x++, index++, nearness += slope)
        if (nearness > this.nearness[index]!) {
          this.nearness[index] = nearness;
          this.triangle[index] = triangle;
        }
    });
  }

  /**
   * Whether a place is hidden by a surface before it. Found from the triangles that are nearest around it, exactly where
   * these are larger than a sample.
   */
  hides(x: number, y: number, nearness: number): boolean {
    const { top, width, height } = this.band;
    const left = Math.floor(x * this.perUnit - 0.5);
    const upper = Math.floor(y * this.perUnit - 0.5) - top;
    const limit = nearness + this.slack(nearness);
    const c = this.#corners;
    let [isCovered, isBehindAll, last] = [false, true, -1];
    for (let k = 0; k < 4; k++) {
      const [px, py] = [left + (k & 1), upper + (k >> 1)];
      const at = py * width + px;
      const triangle = px < 0 || py < 0 || px >= width || py >= height ? -1 : this.triangle[at]!;
      if (triangle < 0) {
        isBehindAll = false;
        continue;
      }
      if (triangle === last) continue;
      last = triangle;
      const first = CORNERS * triangle;
      const [ax, ay, an] = [c[first]!, c[first + 1]!, c[first + 2]!];
      const [ux, uy, un] = [c[first + 3]! - ax, c[first + 4]! - ay, c[first + 5]! - an];
      const [vx, vy, vn] = [c[first + 6]! - ax, c[first + 7]! - ay, c[first + 8]! - an];
      const area = ux * vy - uy * vx;
      const [dx, dy] = [x - ax, y - ay];
      const [s, t] = [(dx * vy - dy * vx) / area, (ux * dy - uy * dx) / area];
      const [gx, gy] = [(un * vy - vn * uy) / area, (vn * ux - un * vx) / area];
      const slope = Math.sqrt(gx * gx + gy * gy);
      const rest = 1 - s - t;
      // within, or so little outside of a side that this is rounding
      const isIn =
        (s >= 0 || isNextTo(s * area, vx, vy)) &&
        (t >= 0 || isNextTo(t * area, ux, uy)) &&
        (rest >= 0 || isNextTo(rest * area, ux - vx, uy - vy));
      if (isIn) {
        isCovered = true;
        if (an + s * un + t * vn > limit + 2 * ON_BORDER * slope) return true;
      }
      if (this.nearness[at]! <= limit + Math.min(slope, MOST_SLOPE) / this.perUnit) isBehindAll = false;
    }
    // triangles smaller than a sample: hidden where everything around is nearer
    return !isCovered && isBehindAll;
  }
}

/** Whether a place is next to a side. @param twice twice the area of the triangle that it makes with the side */
const isNextTo = (twice: number, sideX: number, sideY: number): boolean =>
  twice * twice <= ON_BORDER * ON_BORDER * (sideX * sideX + sideY * sideY);

/** Surfaces that are steeper count as so steep: they are seen nearly from their edge. */
const MOST_SLOPE = 4;

/** Walks over the samples of a triangle in a band, row by row: from, to (exclusive), nearness at the first and per sample. */
export function walkTriangle(
  c: Float32Array,
  triangle: number,
  perUnit: number,
  { top, width, height }: Band,
  row: (y: number, from: number, to: number, nearness: number, slope: number) => void,
): void {
  const at = CORNERS * triangle;
  // sample k has its middle at k + ½: shifted, so that middles lie at whole numbers
  const [ax, ay, an] = [c[at]! * perUnit - 0.5, c[at + 1]! * perUnit - 0.5, c[at + 2]!];
  const [bx, by, bn] = [c[at + 3]! * perUnit - 0.5, c[at + 4]! * perUnit - 0.5, c[at + 5]!];
  const [cx, cy, cn] = [c[at + 6]! * perUnit - 0.5, c[at + 7]! * perUnit - 0.5, c[at + 8]!];
  const first = Math.max(Math.ceil(Math.min(ay, by, cy)), top);
  const last = Math.min(Math.floor(Math.max(ay, by, cy)), top + height - 1);
  if (first > last) return;
  const [least, most] = [Math.min(ax, bx, cx), Math.max(ax, bx, cx)];
  if (most < 0 || least > width - 1) return;
  const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
  if (area === 0) return;
  const gx = ((bn - an) * (cy - ay) - (cn - an) * (by - ay)) / area;
  const gy = ((cn - an) * (bx - ax) - (bn - an) * (cx - ax)) / area;
  for (let y = first; y <= last; y++) {
    let [left, right] = [Infinity, -Infinity];
    for (let side = 0; side < 3; side++) {
      const x0 = side === 0 ? ax : side === 1 ? bx : cx;
      const y0 = side === 0 ? ay : side === 1 ? by : cy;
      const x1 = side === 0 ? bx : side === 1 ? cx : ax;
      const y1 = side === 0 ? by : side === 1 ? cy : ay;
      if ((y < y0 && y < y1) || (y > y0 && y > y1)) continue;
      if (y0 === y1) {
        if (x0 < left) left = x0;
        if (x0 > right) right = x0;
        continue; // its other end is an end of the next side, too
      }
      const x = x0 + ((y - y0) / (y1 - y0)) * (x1 - x0);
      if (x < left) left = x;
      if (x > right) right = x;
    }
    const from = Math.max(Math.ceil(left), 0);
    const to = Math.min(Math.floor(right) + 1, width);
    if (from < to) row(y, from, to, an + (from - ax) * gx + (y - ay) * gy, gx);
  }
}
