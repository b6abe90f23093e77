import { flattenPath } from '@gull-pane/core/drawing/flatten';
import type { Path } from '@gull-pane/core/drawing/path';

/** A place on a path and how it runs there. */
export interface PathPlace {
  readonly x: number;
  readonly y: number;
  readonly angleRad: number;
}

/** A path by its length, as its chords; parts that aren't connected follow one another (SVG 2, 9.6.2). User units. */
export class MeasuredPath {
  /** x0, y0, x1, y1 of the chords that have a length. */
  readonly #chords: number[] = [];
  /** Length before each chord. */
  readonly #before: number[] = [];
  readonly length: number;

  constructor(path: Path) {
    let [startX, startY, lastX, lastY, length] = [0, 0, 0, 0, 0];
    const chordTo = (x: number, y: number): void => {
      const size = Math.hypot(x - lastX, y - lastY);
      if (size > 0) {
        this.#chords.push(lastX, lastY, x, y);
        this.#before.push(length);
        length += size;
      }
      [lastX, lastY] = [x, y];
    };
    flattenPath(path, {
      move: (x, y) => {
        [startX, startY, lastX, lastY] = [x, y, x, y];
      },
      line: chordTo,
      close: () => chordTo(startX, startY),
    });
    this.length = length;
  }

  /** @returns null beyond the path's ends */
  at(distance: number): PathPlace | null {
    if (!(distance >= 0 && distance <= this.length) || this.#before.length === 0) return null;
    let [low, high] = [0, this.#before.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.#before[middle]! <= distance) low = middle;
      else high = middle - 1;
    }
    const [x0, y0, x1, y1] = this.#chords.slice(4 * low, 4 * low + 4) as [number, number, number, number];
    const t = Math.min((distance - this.#before[low]!) / Math.hypot(x1 - x0, y1 - y0), 1);
    return { x: x0 + (x1 - x0) * t, y: y0 + (y1 - y0) * t, angleRad: Math.atan2(y1 - y0, x1 - x0) };
  }
}
