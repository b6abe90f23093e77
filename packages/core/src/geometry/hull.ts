/** Convex hulls in the plane, kept while points stream past: what a tight fit in any direction needs. */

/**
 * Convex hull by Andrew's monotone chain (A. M. Andrew, Information Processing Letters 9, 1979).
 * @param points x, y pairs in drawing units
 * @returns x, y pairs of the hull's corners, anticlockwise, without collinear points; one or two points stay as they are
 */
export function convexHull(points: ArrayLike<number>): Float64Array {
  const count = points.length >> 1;
  const order = Array.from({ length: count }, (_, index) => index).sort(
    (i, j) => points[2 * i]! - points[2 * j]! || points[2 * i + 1]! - points[2 * j + 1]!,
  );
  const turn = (o: number, a: number, b: number): number =>
    (points[2 * a]! - points[2 * o]!) * (points[2 * b + 1]! - points[2 * o + 1]!) -
    (points[2 * a + 1]! - points[2 * o + 1]!) * (points[2 * b]! - points[2 * o]!);
  const chain = (indices: readonly number[]): number[] => {
    const kept: number[] = [];
    for (const index of indices) {
      while (kept.length >= 2 && turn(kept[kept.length - 2]!, kept[kept.length - 1]!, index) <= 0) kept.pop();
      const last = kept[kept.length - 1];
      const repeats =
        last !== undefined && points[2 * last] === points[2 * index] && points[2 * last + 1] === points[2 * index + 1];
      if (!repeats) kept.push(index);
    }
    return kept;
  };
  const lower = chain(order);
  const upper = chain(order.reverse());
  const ring = lower.length > 1 ? [...lower.slice(0, -1), ...upper.slice(0, -1)] : lower;
  const hull = new Float64Array(ring.length * 2);
  ring.forEach((index, at) => {
    hull[2 * at] = points[2 * index]!;
    hull[2 * at + 1] = points[2 * index + 1]!;
  });
  return hull;
}

/** How many points wait before they are reduced to their hull. */
const PENDING_POINTS = 4096;

/** Takes points one by one and keeps only those that can be extreme; memory stays bounded. */
export class HullBuilder {
  #points: number[] = [];
  #corners: Float64Array = new Float64Array(0);

  add(x: number, y: number): void {
    if (this.#inside(x, y)) return;
    this.#points.push(x, y);
    if (this.#points.length >= 2 * PENDING_POINTS) this.#reduce();
  }

  /** @returns x, y pairs of the hull of everything added so far */
  hull(): Float64Array {
    this.#reduce();
    return this.#corners;
  }

  #reduce(): void {
    if (this.#points.length === 0) return;
    this.#corners = convexHull([...this.#corners, ...this.#points]);
    this.#points = [];
    this.#chooseInner();
  }

  // An inscribed octagon of the present hull: most points of a drawing fall inside and are dropped by eight comparisons.
  #inner = new Float64Array(0);
  // An upright rectangle within it: nearly all of these need four comparisons only.
  #minX = Infinity;
  #minY = Infinity;
  #maxX = -Infinity;
  #maxY = -Infinity;

  #chooseInner(): void {
    const best: number[] = [];
    for (let k = 0; k < 8; k++) {
      const dx = Math.cos((k * Math.PI) / 4);
      const dy = Math.sin((k * Math.PI) / 4);
      let farthest = 0;
      for (let i = 1; i < this.#corners.length >> 1; i++) {
        const gain =
          (this.#corners[2 * i]! - this.#corners[2 * farthest]!) * dx +
          (this.#corners[2 * i + 1]! - this.#corners[2 * farthest + 1]!) * dy;
        if (gain > 0) farthest = i;
      }
      best.push(farthest);
    }
    const ring = [...new Set(best)].sort((i, j) => i - j);
    this.#inner = new Float64Array(ring.flatMap((i) => [this.#corners[2 * i]!, this.#corners[2 * i + 1]!]));
    // between the four slanting extremes: each side of the rectangle is as near as the nearer of two corners
    const [upRight, upLeft, downLeft, downRight] = [1, 3, 5, 7].map((k) => best[k]!) as [
      number,
      number,
      number,
      number,
    ];
    const [x, y] = [(i: number) => this.#corners[2 * i]!, (i: number) => this.#corners[2 * i + 1]!];
    this.#minX = Math.max(x(upLeft), x(downLeft));
    this.#maxX = Math.min(x(upRight), x(downRight));
    this.#minY = Math.max(y(downLeft), y(downRight));
    this.#maxY = Math.min(y(upRight), y(upLeft));
  }

  #inside(x: number, y: number): boolean {
    if (x > this.#minX && x < this.#maxX && y > this.#minY && y < this.#maxY) return true;
    const ring = this.#inner;
    if (ring.length < 6) return false;
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length;
      const side = (ring[j]! - ring[i]!) * (y - ring[i + 1]!) - (ring[j + 1]! - ring[i + 1]!) * (x - ring[i]!);
      if (side <= 0) return false;
    }
    return true;
  }
}
