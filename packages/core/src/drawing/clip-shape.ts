import type { Box2 } from '../geometry/clip.ts';
import type { FillRule } from './model.ts';

/** Strips across that the edges of a shape are sorted into. */
const MOST_STRIPS = 512;

/** An area of any shape, as something else is cut by it: a place is asked whether it lies inside, a line where it crosses. */
export class ClipShape {
  readonly box: Box2;
  readonly #strips: number[][];
  readonly #edges: Float64Array;

  /** @param rings closed polylines, x, y pairs, without the repeated first point; drawing units */
  constructor(
    readonly rings: readonly (readonly number[])[],
    readonly rule: FillRule,
  ) {
    const edges: number[] = [];
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const ring of rings)
      for (let i = 0; i < ring.length; i += 2) {
        const j = (i + 2) % ring.length;
        const [x, y] = [ring[i]!, ring[i + 1]!];
        edges.push(x, y, ring[j]!, ring[j + 1]!);
        [minX, minY] = [Math.min(minX, x), Math.min(minY, y)];
        [maxX, maxY] = [Math.max(maxX, x), Math.max(maxY, y)];
      }
    this.box = { minX, minY, maxX, maxY };
    this.#edges = Float64Array.from(edges);
    this.#strips = Array.from({ length: Math.min(MOST_STRIPS, Math.max(edges.length >> 3, 1)) }, () => []);
    for (let at = 0; at < edges.length; at += 4) {
      const [low, high] = [Math.min(edges[at + 1]!, edges[at + 3]!), Math.max(edges[at + 1]!, edges[at + 3]!)];
      for (let strip = this.#stripOf(low); strip <= this.#stripOf(high); strip++) this.#strips[strip]!.push(at);
    }
  }

  /** Corners of its outline. */
  get corners(): number {
    return this.#edges.length / 4;
  }

  /** By its winding, as areas are filled (SVG 2, 13.4.2). */
  isInside(x: number, y: number): boolean {
    const { minX, minY, maxX, maxY } = this.box;
    if (!(x >= minX && x <= maxX && y >= minY && y <= maxY)) return false;
    let winding = 0;
    for (const at of this.#strips[this.#stripOf(y)]!) {
      const [x0, y0, x1, y1] = this.#edge(at);
      if (y0 <= y === y1 <= y) continue;
      if (x0 + ((y - y0) / (y1 - y0)) * (x1 - x0) > x) winding += y1 > y0 ? 1 : -1;
    }
    return this.rule === 'evenodd' ? winding % 2 !== 0 : winding !== 0;
  }

  /** The parts of a straight line that lie inside, as shares of its length: where each begins and ends, in turns. */
  spans(x0: number, y0: number, x1: number, y1: number): number[] {
    const { minX, minY, maxX, maxY } = this.box;
    const isBeside =
      Math.max(x0, x1) < minX || Math.min(x0, x1) > maxX || Math.max(y0, y1) < minY || Math.min(y0, y1) > maxY;
    if (isBeside) return [];
    const cuts = [0, ...this.#crossings(x0, y0, x1, y1), 1].sort((a, b) => a - b);
    const spans: number[] = [];
    for (let i = 1; i < cuts.length; i++) {
      const [from, to] = [cuts[i - 1]!, cuts[i]!];
      const middle = (from + to) / 2;
      if (to <= from || !this.isInside(x0 + (x1 - x0) * middle, y0 + (y1 - y0) * middle)) continue;
      if (spans.at(-1) === from) spans[spans.length - 1] = to;
      else spans.push(from, to);
    }
    return spans;
  }

  /** How a box lies to the shape. */
  sideOf(box: Box2): 'inside' | 'outside' | 'across' {
    const { minX, minY, maxX, maxY } = box;
    const edges = this.#edges;
    for (let at = 0; at < edges.length; at += 4) {
      const [x, y] = [edges[at]!, edges[at + 1]!];
      if (x >= minX && x <= maxX && y >= minY && y <= maxY) return 'across';
    }
    // no corner lies in the box: its sides tell all
    const corners = [minX, minY, maxX, minY, maxX, maxY, minX, maxY, minX, minY];
    for (let i = 0; i < 8; i += 2) {
      const [x0, y0, x1, y1] = corners.slice(i, i + 4) as [number, number, number, number];
      if (this.#crossings(x0, y0, x1, y1).length > 0) return 'across';
    }
    return this.isInside(minX, minY) ? 'inside' : 'outside';
  }

  #crossings(x0: number, y0: number, x1: number, y1: number): number[] {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const found: number[] = [];
    const last = this.#stripOf(Math.max(y0, y1));
    for (let strip = this.#stripOf(Math.min(y0, y1)); strip <= last; strip++)
      for (const at of this.#strips[strip]!) {
        const [ax, ay, bx, by] = this.#edge(at);
        const [ex, ey] = [bx - ax, by - ay];
        const det = dx * ey - dy * ex;
        if (det === 0) continue;
        const along = ((ax - x0) * ey - (ay - y0) * ex) / det;
        const across = ((ax - x0) * dy - (ay - y0) * dx) / det;
        if (along > 0 && along < 1 && across >= 0 && across <= 1) found.push(along);
      }
    return found;
  }

  #edge(at: number): [number, number, number, number] {
    const edges = this.#edges;
    return [edges[at]!, edges[at + 1]!, edges[at + 2]!, edges[at + 3]!];
  }

  #stripOf(y: number): number {
    const { minY, maxY } = this.box;
    const count = this.#strips.length;
    const strip = Math.floor((count * (y - minY)) / (maxY - minY || 1));
    return Math.min(Math.max(strip, 0), count - 1);
  }
}
