import { Growable } from './growable.ts';

/** A face of a convex body: what lies inside has normal · point ≤ reach. */
export interface ExitFace {
  readonly normal: readonly [number, number, number];
  readonly reach: number;
  /** Three corners, x, y, z each. */
  readonly corners: readonly (readonly [number, number, number])[];
}

/** Number of squares along each side of the cube on which directions are sorted. */
const SQUARES = 12;
/** The angle between the middle of a square and its corners is less than this, radians. */
const SQUARE_RAD = (0.8 * Math.SQRT2 * 2) / SQUARES;
/** Faces that span more than this are looked at in all directions, radians. */
const WIDEST_RAD = 1.3;

/**
 * Tells whether points lie in a convex body by the few faces that a ray from its middle can leave it through: that is the
 * face which limits a direction, so that the others needn't be asked.
 */
export class ExitFaces {
  /** Normal and reach about the middle, four numbers a face. */
  readonly #planes: Float64Array;
  /** Where the faces of each square begin in the list; one more at the end. */
  readonly #starts: Uint32Array;
  readonly #list: Uint32Array;

  private constructor(
    private readonly middle: readonly [number, number, number],
    faces: readonly ExitFace[],
  ) {
    const [x, y, z] = middle;
    this.#planes = Float64Array.from(
      faces.flatMap(({ normal: [nx, ny, nz], reach }) => [nx, ny, nz, reach - nx * x - ny * y - nz * z]),
    );
    // five numbers a face: where its directions lie, and the least cosine to it of a square's middle and of a side's part
    const caps = new Float64Array(CAP * faces.length);
    faces.forEach(({ corners }, face) => {
      const { towards, widestRad } = capAround(corners.map(([cx, cy, cz]) => [cx - x, cy - y, cz - z]));
      const least = (slackRad: number): number => (widestRad > WIDEST_RAD ? -1 : Math.cos(widestRad + slackRad));
      caps.set([...towards, least(SQUARE_RAD), least(PART_RAD)], CAP * face);
    });
    const list = new Growable(Uint32Array);
    this.#starts = new Uint32Array(squareMiddles.length + 1);
    const all = Uint32Array.from(faces, (_, face) => face);
    const ofPart = partMiddles.map((middleOfPart) => facing(caps, all, middleOfPart, 4));
    squareMiddles.forEach((direction, square) => {
      list.append(facing(caps, ofPart[partOf(square)]!, direction, 3));
      this.#starts[square + 1] = list.length;
    });
    this.#list = list.view().slice();
  }

  /** @param middle a point inside @returns null if it doesn't lie inside all faces */
  static of(middle: readonly [number, number, number], faces: readonly ExitFace[]): ExitFaces | null {
    const isIn = faces.every(({ normal, reach }) => dot(normal, middle) < reach);
    return isIn ? new ExitFaces(middle, faces) : null;
  }

  isInside(x: number, y: number, z: number): boolean {
    const [dx, dy, dz] = [x - this.middle[0], y - this.middle[1], z - this.middle[2]];
    const square = squareOf(dx, dy, dz);
    const planes = this.#planes;
    for (let i = this.#starts[square]!; i < this.#starts[square + 1]!; i++) {
      const at = 4 * this.#list[i]!;
      if (planes[at]! * dx + planes[at + 1]! * dy + planes[at + 2]! * dz > planes[at + 3]!) return false;
    }
    return true;
  }
}

type Vector = readonly [number, number, number];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

function unit([x, y, z]: Vector): Vector {
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
}

/** Numbers of a face in the list of directions. */
const CAP = 5;

/** Those of some faces whose directions come near one. @param least which number tells how near */
function facing(caps: Float64Array, faces: Uint32Array, [x, y, z]: Vector, least: 3 | 4): Uint32Array {
  const found = new Uint32Array(faces.length);
  let count = 0;
  for (let i = 0; i < faces.length; i++) {
    const at = CAP * faces[i]!;
    if (caps[at]! * x + caps[at + 1]! * y + caps[at + 2]! * z >= caps[at + least]!) found[count++] = faces[i]!;
  }
  return found.subarray(0, count);
}

/** The directions of a face from the middle, as those within an angle of one. */
function capAround(corners: readonly Vector[]): { readonly towards: Vector; readonly widestRad: number } {
  const directions = corners.map(unit);
  const sum = (axis: 0 | 1 | 2): number => directions.reduce((all, direction) => all + direction[axis], 0);
  const towards = unit([sum(0), sum(1), sum(2)]);
  const widestRad = Math.acos(Math.max(-1, Math.min(1, ...directions.map((direction) => dot(direction, towards)))));
  return { towards, widestRad };
}

/** Which square of the cube a direction goes through. */
function squareOf(x: number, y: number, z: number): number {
  const [ax, ay, az] = [Math.abs(x), Math.abs(y), Math.abs(z)];
  const most = Math.max(ax, ay, az);
  if (most === 0) return 0;
  const axis = most === ax ? 0 : most === ay ? 1 : 2;
  const [value, u, v] = axis === 0 ? [x, y, z] : axis === 1 ? [y, z, x] : [z, x, y];
  const place = (side: number): number => Math.min(Math.floor(((side / most + 1) / 2) * SQUARES), SQUARES - 1);
  return ((2 * axis + (value < 0 ? 1 : 0)) * SQUARES + place(u)) * SQUARES + place(v);
}

/** The direction through the middle of each square, in the order of {@link squareOf}. */
const squareMiddles: readonly Vector[] = Array.from({ length: 6 * SQUARES * SQUARES }, (_, square) => {
  const side = Math.floor(square / (SQUARES * SQUARES));
  const at = (place: number): number => (2 * (place + 0.5)) / SQUARES - 1;
  const [u, v] = [at(Math.floor(square / SQUARES) % SQUARES), at(square % SQUARES)];
  const value = side % 2 === 0 ? 1 : -1;
  const axis = Math.floor(side / 2);
  return unit(axis === 0 ? [value, u, v] : axis === 1 ? [v, value, u] : [u, v, value]);
});

/** Parts along each side of the cube: faces that don't come near a part needn't be looked at for its squares. */
const PARTS = 3;
const SQUARES_PER_PART = SQUARES / PARTS;

/** The part of its side that a square lies in. */
function partOf(square: number): number {
  const side = Math.floor(square / (SQUARES * SQUARES));
  const row = Math.floor((Math.floor(square / SQUARES) % SQUARES) / SQUARES_PER_PART);
  const column = Math.floor((square % SQUARES) / SQUARES_PER_PART);
  return (side * PARTS + row) * PARTS + column;
}

const partMiddles: readonly Vector[] = Array.from({ length: 6 * PARTS * PARTS }, (_, part): Vector => {
  const own = squareMiddles.filter((_middle, square) => partOf(square) === part);
  const sum = (axis: 0 | 1 | 2): number => own.reduce((all, middle) => all + middle[axis], 0);
  return unit([sum(0), sum(1), sum(2)]);
});

/** How far a face's directions may be from the middle of a part, beside its own width: as far as from its squares, radians. */
const PART_RAD =
  SQUARE_RAD +
  Math.max(...squareMiddles.map((middle, square) => Math.acos(Math.min(dot(middle, partMiddles[partOf(square)]!), 1))));
