import { Growable } from '../geometry/growable.ts';
import { NearestSurfaces, type Band } from './nearest-surfaces.ts';
import { ENDS, type SeenScene } from './seen-scene.ts';

/** How a picture is sampled. */
export interface Sampling {
  /** Sides of the picture, in its unit; its upper left corner is the origin. */
  readonly width: number;
  readonly height: number;
  /** Samples in a unit. */
  readonly perUnit: number;
  /** How much nearer a surface must be to hide a place of a nearness. */
  readonly slack: (nearness: number) => number;
}

/** Stretches of lines: which line, its ends in the picture, and whether it is seen. */
export interface Stretches {
  readonly line: Uint32Array;
  /** x0, y0, x1, y1 each. */
  readonly ends: Float64Array;
  readonly isSeen: Uint8Array;
}

/** So many samples are looked at at a time: 8 bytes each. */
const BAND_SAMPLES = 1 << 24;
/** A border between seen and hidden is found to this share of a sample. */
const HALVINGS = 8;

/** Bands of a picture, each with a row of samples of its neighbours on both sides. */
export function* bandsOf({
  width,
  height,
  perUnit,
}: Sampling): Generator<Band & { readonly rows: readonly [number, number] }> {
  const [columns, rows] = [Math.max(Math.ceil(width * perUnit), 1), Math.max(Math.ceil(height * perUnit), 1)];
  const step = Math.max(Math.floor(BAND_SAMPLES / columns), 4);
  for (let row = 0; row < rows; row += step) {
    const end = Math.min(row + step, rows);
    yield { top: row - 1, width: columns, height: end - row + 2, rows: [row, end] };
  }
}

/**
 * Which stretches of a scene's lines are seen, and which surfaces hide the others: lines are sampled at the picture's
 * resolution against the nearest surfaces, and each border between seen and hidden is then found by halving. Points come
 * after the lines, as stretches without length.
 */
export function visibleLines(scene: SeenScene, sampling: Sampling): Stretches {
  const found = { line: new Growable(Uint32Array), ends: new Growable(Float64Array), isSeen: new Growable(Uint8Array) };
  const lines = scene.lines.view();
  const points = scene.points.view();
  for (const band of bandsOf(sampling)) {
    const surfaces = new NearestSurfaces(scene, band, sampling.perUnit, sampling.slack);
    const [top, bottom] = band.rows.map((row) => row / sampling.perUnit) as [number, number];
    const box = [0, top, sampling.width, Math.min(bottom, sampling.height)] as const;
    const add = (line: number, x0: number, y0: number, x1: number, y1: number, isSeen: boolean): void => {
      found.line.push(line);
      for (const value of [x0, y0, x1, y1]) found.ends.push(value);
      found.isSeen.push(isSeen ? 1 : 0);
    };
    for (let line = 0; line < lines.length / ENDS; line++) {
      const at = ENDS * line;
      const [x0, y0, n0] = [lines[at]!, lines[at + 1]!, lines[at + 2]!];
      const [dx, dy, dn] = [lines[at + 3]! - x0, lines[at + 4]! - y0, lines[at + 5]! - n0];
      const within = shareWithin(x0, y0, dx, dy, box);
      if (!within) continue;
      const [from, to] = within;
      const isSeen = (share: number): boolean => !surfaces.hides(x0 + share * dx, y0 + share * dy, n0 + share * dn);
      const count = Math.max(Math.ceil(Math.hypot(dx, dy) * (to - from) * sampling.perUnit), 2);
      const middle = (k: number): number => from + ((to - from) * (k + 0.5)) / count;
      let [begin, state] = [from, isSeen(middle(0))];
      const end = (share: number): void =>
        add(line, x0 + begin * dx, y0 + begin * dy, x0 + share * dx, y0 + share * dy, state);
      for (let k = 1; k < count; k++) {
        if (isSeen(middle(k)) === state) continue;
        let [a, b] = [middle(k - 1), middle(k)];
        for (let half = 0; half < HALVINGS; half++) {
          const between = (a + b) / 2;
          if (isSeen(between) === state) a = between;
          else b = between;
        }
        end((a + b) / 2);
        [begin, state] = [(a + b) / 2, !state];
      }
      end(to);
    }
    for (let point = 0; point < points.length / 3; point++) {
      const [x, y, nearness] = [points[3 * point]!, points[3 * point + 1]!, points[3 * point + 2]!];
      if (x < box[0] || x >= box[2] || y < box[1] || y >= box[3]) continue;
      add(lines.length / ENDS + point, x, y, x, y, !surfaces.hides(x, y, nearness));
    }
  }
  return { line: found.line.view(), ends: found.ends.view(), isSeen: found.isSeen.view() };
}

/** The part of a line within a rectangle, as shares (Y.-D. Liang, B. Barsky, "A new concept and method for line clipping", 1984). */
export function shareWithin(
  x0: number,
  y0: number,
  dx: number,
  dy: number,
  [left, top, right, bottom]: readonly [number, number, number, number],
): readonly [number, number] | null {
  let [from, to] = [0, 1];
  for (const [way, room] of [
    [-dx, x0 - left],
    [dx, right - x0],
    [-dy, y0 - top],
    [dy, bottom - y0],
  ] as const) {
    if (way === 0) {
      if (room < 0) return null;
    } else if (way < 0) from = Math.max(from, room / way);
    else to = Math.min(to, room / way);
  }
  return from < to ? [from, to] : null;
}

/** All lines and points of a scene within the picture, hidden or not. */
export function allLines(scene: SeenScene, { width, height }: Pick<Sampling, 'width' | 'height'>): Stretches {
  const found = { line: new Growable(Uint32Array), ends: new Growable(Float64Array) };
  const [lines, points] = [scene.lines.view(), scene.points.view()];
  for (let line = 0; line < lines.length / ENDS; line++) {
    const at = ENDS * line;
    const [x0, y0] = [lines[at]!, lines[at + 1]!];
    const [dx, dy] = [lines[at + 3]! - x0, lines[at + 4]! - y0];
    const within = shareWithin(x0, y0, dx, dy, [0, 0, width, height]);
    if (!within) continue;
    found.line.push(line);
    for (const share of within) found.ends.append([x0 + share * dx, y0 + share * dy]);
  }
  for (let point = 0; point < points.length / 3; point++) {
    const [x, y] = [points[3 * point]!, points[3 * point + 1]!];
    if (x < 0 || y < 0 || x >= width || y >= height) continue;
    found.line.push(lines.length / ENDS + point);
    found.ends.append([x, y, x, y]);
  }
  const line = found.line.view();
  return { line, ends: found.ends.view(), isSeen: new Uint8Array(line.length).fill(1) };
}
