import { mixed } from '../model/mixed.ts';

/** A mesh that stands somewhere else, too. */
export interface Repeat {
  /** The same for all meshes that are one another's images. */
  readonly key: object;
  /** From the first of them to this one: an orthonormal 3 × 3, row by row. */
  readonly turn: readonly number[];
}

interface Known {
  readonly key: object;
  readonly positions: Float64Array;
  readonly corners: Uint32Array;
  /** Three vertices, far apart and not in a line. */
  readonly span: readonly [number, number, number];
  readonly frame: readonly number[];
}

/** Coordinates come in single precision: so far apart two places may be that are one, as a share of the largest. */
const SAME = 4e-7;
/** More meshes of equal numbers that are no images of one another aren't compared. */
const MOST_TRIED = 64;
const UNTURNED = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** Finds meshes that are moved and turned images of one another: the taker-apart of STEP gives each place its own. */
export class Repeats {
  readonly #known = new Map<string, Known[]>();

  /**
   * @param positions x, y, z triples
   * @param corners three vertices a triangle
   */
  find(positions: Float64Array, corners: Uint32Array): Repeat {
    const key = `${positions.length} ${corners.length} ${mixed(corners)}`;
    let alike = this.#known.get(key);
    if (!alike) this.#known.set(key, (alike = []));
    for (const known of alike) {
      const turn = turnBetween(known, positions, corners);
      if (turn) return { key: known.key, turn };
    }
    const own = { key: {}, turn: UNTURNED };
    const span = spanOf(positions);
    const frame = span && frameOf(positions, span);
    if (span && frame && alike.length < MOST_TRIED) alike.push({ key: own.key, positions, corners, span, frame });
    return own;
  }
}

/** @returns null if it isn't the same mesh, moved and turned */
function turnBetween(known: Known, positions: Float64Array, corners: Uint32Array): number[] | null {
  if (!known.corners.every((corner, i) => corner === corners[i])) return null;
  const frame = frameOf(positions, known.span);
  if (!frame) return null;
  const turn = Array.from({ length: 9 }, (_, i) => {
    const [row, column] = [Math.floor(i / 3), i % 3];
    return [0, 1, 2].reduce((sum, axis) => sum + frame[3 * axis + row]! * known.frame[3 * axis + column]!, 0);
  });
  let largest = 0;
  for (let i = 0; i < positions.length; i++)
    largest = Math.max(largest, Math.abs(positions[i]!), Math.abs(known.positions[i]!));
  const slack = SAME * largest;
  const [from, to] = [3 * known.span[0], 3 * known.span[0]];
  for (let at = 0; at < positions.length; at += 3)
    for (let row = 0; row < 3; row++) {
      let moved = positions[to + row]!;
      for (let column = 0; column < 3; column++)
        moved += turn[3 * row + column]! * (known.positions[at + column]! - known.positions[from + column]!);
      // the frame itself is as exact as its three vertices: what lies far from them may be off by a little more
      if (!(Math.abs(moved - positions[at + row]!) <= 8 * slack)) return null;
    }
  return turn;
}

/** Two vertices: the farthest one from the first vertex, and the farthest one from the line through these two. */
function spanOf(positions: Float64Array): [number, number, number] | null {
  const count = positions.length / 3;
  const way = (from: number, to: number): [number, number, number] => [
    positions[3 * to]! - positions[3 * from]!,
    positions[3 * to + 1]! - positions[3 * from + 1]!,
    positions[3 * to + 2]! - positions[3 * from + 2]!,
  ];
  const farthest = (distance: (vertex: number) => number): number => {
    let [best, most] = [0, -1];
    for (let vertex = 0; vertex < count; vertex++) {
      const own = distance(vertex);
      if (own > most) [best, most] = [vertex, own];
    }
    return best;
  };
  if (count < 3) return null;
  const second = farthest((vertex) => Math.hypot(...way(0, vertex)));
  const along = way(0, second);
  const third = farthest((vertex) => Math.hypot(...cross(along, way(0, vertex))));
  return second > 0 && third > 0 && third !== second ? [0, second, third] : null;
}

type Three = readonly [number, number, number];

const cross = ([ax, ay, az]: Three, [bx, by, bz]: Three): [number, number, number] => [
  ay * bz - az * by,
  az * bx - ax * bz,
  ax * by - ay * bx,
];

/** Three unit vectors, one after the other, by three vertices; null where these lie in a line. */
function frameOf(positions: Float64Array, [a, b, c]: Known['span']): number[] | null {
  const way = (to: number): Three =>
    [0, 1, 2].map((axis) => positions[3 * to + axis]! - positions[3 * a + axis]!) as [number, number, number];
  const unit = (vector: Three): Three | null => {
    const length = Math.hypot(...vector);
    return length > 0 ? [vector[0] / length, vector[1] / length, vector[2] / length] : null;
  };
  const along = unit(way(b));
  const up = along && unit(cross(along, way(c)));
  return along && up ? [...along, ...up, ...cross(along, up)] : null;
}
