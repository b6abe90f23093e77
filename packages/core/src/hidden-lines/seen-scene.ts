import { Growable } from '../geometry/growable.ts';
import type { Vec3 } from '../geometry/vec.ts';
import { keptPolygons, keptStretches, type Cutter } from './cut-pieces.ts';

/** Takes a place to a picture: its place there, y down, and its nearness: linear over the picture, larger for what is nearer. */
export type ToPicture = (place: Vec3) => readonly [x: number, y: number, nearness: number];

/** Numbers of a triangle: x, y, nearness of its corners. */
export const CORNERS = 9;
/** Numbers of a line: x, y, nearness of its ends. */
export const ENDS = 6;
/** What a corner has in space: its place, and red, green, blue of the light that it sends, 0 … 255. */
const LIT = 6;

/**
 * What is seen of a model, projected onto a picture. Corners of triangles and ends of edges at the same place come out at
 * the same numbers, to the last bit, so that an edge lies on its faces.
 */
export class SeenScene {
  readonly corners = new Growable(Float32Array);
  /** Red, green, blue at each corner of a triangle; of none if pictures aren't shaded. */
  readonly colours = new Growable(Uint8Array);
  readonly lines = new Growable(Float32Array);
  /** What each line belongs to. */
  readonly lineTags = new Growable(Uint32Array);
  readonly points = new Growable(Float32Array);
  readonly pointTags = new Growable(Uint32Array);

  constructor(
    private readonly toPicture: ToPicture,
    /** Cut everything, such as what lies behind the eye. */
    private readonly always: readonly Cutter[],
    private readonly isShaded: boolean,
  ) {}

  get triangleCount(): number {
    return this.corners.length / CORNERS;
  }

  /**
   * A triangle in space.
   * @param numbers x, y, z, red, green, blue of its corners
   */
  triangle(numbers: readonly number[], cutters: readonly Cutter[]): void {
    if (cutters.length + this.always.length === 0) {
      this.#add(numbers, 0, LIT, 2 * LIT);
      return;
    }
    for (const piece of keptPolygons(numbers, LIT, [...this.always, ...cutters]))
      for (let k = 2 * LIT; k < piece.length; k += LIT) this.#add(piece, 0, k - LIT, k);
  }

  /** An edge in space. @param ends x, y, z of both @param tag what it belongs to */
  line(ends: readonly number[], tag: number, cutters: readonly Cutter[]): void {
    const all = [...this.always, ...cutters];
    for (const [from, to] of all.length === 0 ? WHOLE : keptStretches(ends, all)) {
      const [x0, y0, n0] = this.#place(ends, from);
      const [x1, y1, n1] = this.#place(ends, to);
      this.lines.append([x0, y0, n0, x1, y1, n1]);
      this.lineTags.push(tag);
    }
  }

  point(place: Vec3, tag: number, cutters: readonly Cutter[]): void {
    const { x, y, z } = place;
    const all = [...this.always, ...cutters];
    if (all.length > 0 && keptStretches([x, y, z, x, y, z], all).length === 0) return;
    this.points.append(this.toPicture(place));
    this.pointTags.push(tag);
  }

  #place(ends: readonly number[], share: number): readonly [number, number, number] {
    const at = (axis: number): number =>
      share === 0 ? ends[axis]! : share === 1 ? ends[axis + 3]! : ends[axis]! + (ends[axis + 3]! - ends[axis]!) * share;
    return this.toPicture({ x: at(0), y: at(1), z: at(2) });
  }

  #add(from: readonly number[], a: number, b: number, c: number): void {
    for (const at of [a, b, c]) {
      const [x, y, nearness] = this.toPicture({ x: from[at]!, y: from[at + 1]!, z: from[at + 2]! });
      this.corners.push(x);
      this.corners.push(y);
      this.corners.push(nearness);
      if (this.isShaded) for (let k = 3; k < LIT; k++) this.colours.push(Math.min(Math.max(from[at + k]!, 0), 255));
    }
  }
}

const WHOLE = [[0, 1]] as const;
