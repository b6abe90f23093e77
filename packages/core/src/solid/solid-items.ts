import { Growable } from '../geometry/growable.ts';
import { recipeOf, type NumbersAt, type PieceRecipe } from './mesh-recipe.ts';
import { POINTS_PER_WEIGHT, pointPieces } from './point-pieces.ts';
import type { SharedShape, SolidPart } from './solid-model.ts';

/** A piece of a part as it is drawn. Positions in drawing units. */
export interface SolidPiece {
  /** x, y, z a vertex. */
  readonly positions: Float64Array;
  /** Unit normals of the vertices. */
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
  /** Two ends an edge, x, y, z each. */
  readonly edgePositions: Float64Array;
  /** Six numbers an edge: the normals of its faces. */
  readonly edgeNormals: Float32Array;
  /** x, y, z a point, where the piece is a set of points. */
  readonly points: Float64Array;
  /** Red, green, blue of each; null if they have the colour of the material. */
  readonly pointColours: Uint8Array | null;
}

/** A shape as it is drawn wherever it stands, in pieces. */
export interface KnownShape {
  readonly pieces: readonly ShapePiece[];
  /** Where it stood when that was found out, and how it was turned there. */
  readonly positions: NumbersAt;
  readonly turn: SharedShape['turn'];
  /** Whether it may stand at several places, and at how many it does. */
  readonly isShared: boolean;
  places: number;
}

export interface ShapePiece {
  readonly recipe: PieceRecipe;
  readonly shape: KnownShape;
}

/** A piece before it is placed. */
export interface PlacedShape {
  readonly piece: ShapePiece;
  /** Of the whole part. */
  readonly positions: NumbersAt;
  /** From where the recipe was made to where the part stands, row by row; null where that is the same. */
  readonly turn: Float64Array | null;
}

/** A piece of a set of points. */
export interface PlacedPoints {
  readonly points: Uint32Array;
  /** Of the whole set. */
  readonly positions: Float64Array;
  readonly colours: Uint8Array | null;
}

/** What is drawn of a shape where it stands: one of its own pieces or a coarser form. */
export interface PlacedForm {
  readonly recipe: PieceRecipe;
  readonly positions: NumbersAt;
  readonly turn: Float64Array | null;
  /** The shape that stands at other places in the same form; null if this form is made for this place alone. */
  readonly shared: KnownShape | null;
}

/** What a tile holds of an object in one material. */
export interface TilePiece {
  readonly object: number;
  readonly material: number;
  readonly form: PlacedForm | PlacedPoints;
}

/** What drawing a piece costs: triangles, edges, and points at {@link POINTS_PER_WEIGHT}. */
export function weightOfPiece({ form }: TilePiece): number {
  if ('points' in form) return Math.ceil(form.points.length / POINTS_PER_WEIGHT);
  return weightOfForm(form.recipe);
}

/** The same of triangles and edges. */
export const weightOfForm = ({ triangles, edgeEnds }: PieceRecipe): number =>
  triangles.length / 3 + edgeEnds.length / 2;

/** @param recipe one that its shape has wherever it stands */
export const placedForm = ({ piece: { shape }, positions, turn }: PlacedShape, recipe: PieceRecipe): PlacedForm => ({
  recipe,
  positions,
  turn,
  shared: shape.isShared ? shape : null,
});

/** A piece with all its numbers. */
export const pieceFrom = (form: TilePiece['form']): SolidPiece => ('points' in form ? pointsOf(form) : placed(form));

/** Doubles that lie together: an array of its own for each of a million parts would take more than its numbers. */
const BLOCK_LENGTH = 1 << 17;

class NumberStore {
  #block = new Float64Array(0);
  #used = 0;

  add(numbers: Float64Array): NumbersAt {
    if (numbers.length > BLOCK_LENGTH / 8) return { block: numbers, start: 0 };
    if (this.#used + numbers.length > this.#block.length) {
      this.#block = new Float64Array(BLOCK_LENGTH);
      this.#used = 0;
    }
    const start = this.#used;
    this.#block.set(numbers, start);
    this.#used += numbers.length;
    return { block: this.#block, start };
  }
}

/** Everything that tiles of a solid are made of. */
export class SolidItems {
  readonly dimensions = 3;
  readonly object = new Growable(Uint32Array);
  readonly material = new Growable(Uint32Array);
  /** What drawing it costs, as {@link weightOfPiece} says. */
  readonly weight = new Growable(Uint32Array);
  /** The least coordinates, then the largest, of each item. */
  readonly boxes = new Growable(Float64Array);
  /** Pieces are placed when they are asked for: there may be a million of one shape. */
  readonly #sources: (PlacedShape | PlacedPoints)[] = [];
  /** Size that counts where it isn't that of the box: the gaps that points fill. */
  readonly #sizes = new Map<number, number>();
  readonly #known = new WeakMap<object, KnownShape>();
  readonly #numbers = new NumberStore();

  get length(): number {
    return this.#sources.length;
  }

  /** How an item is drawn where it stands. */
  piece(item: number): SolidPiece {
    return pieceFrom(this.tilePiece(item).form);
  }

  /** An item as a tile takes it. */
  tilePiece(item: number): TilePiece {
    const source = this.#sources[item]!;
    const form = 'points' in source ? source : placedForm(source, source.piece.recipe);
    return { object: this.object.at(item), material: this.material.at(item), form };
  }

  /** Items as a tile takes them, in the order of their numbers. */
  tilePieces(chosen: ArrayLike<number>): TilePiece[] {
    return Array.from(Uint32Array.from(chosen).sort(), (item) => this.tilePiece(item));
  }

  /** What an item is a piece of. */
  source(item: number): PlacedShape | PlacedPoints {
    return this.#sources[item]!;
  }

  edgeCountOf(item: number): number {
    const source = this.#sources[item]!;
    return 'points' in source ? 0 : source.piece.recipe.edgeEnds.length / 2;
  }

  /** Longest side of its box; of points that lie between others, how far these are apart. */
  sizeOf(item: number): number {
    const own = this.#sizes.get(item);
    if (own !== undefined) return own;
    const at = 6 * item;
    const box = this.boxes;
    return Math.max(box.at(at + 3) - box.at(at), box.at(at + 4) - box.at(at + 1), box.at(at + 5) - box.at(at + 2));
  }

  /** Takes a part apart into pieces with smooth normals and edges. @returns how many triangles it has that have an area */
  add(part: SolidPart): number {
    if (part.points) {
      this.#addPoints(part, part.points.colours);
      return 0;
    }
    const { shape } = part;
    const positions = this.#numbers.add(part.positions);
    let known = shape && this.#known.get(shape.key);
    if (!known) {
      known = shapeOf(part, positions);
      if (shape) this.#known.set(shape.key, known);
    }
    known.places++;
    const turn = shape && !sameNumbers(shape.turn, known.turn) ? between(known.turn, shape.turn) : null;
    let count = 0;
    for (const piece of known.pieces) {
      this.#add(part, { piece, positions, turn });
      count += piece.recipe.triangles.length / 3;
    }
    return count;
  }

  #add({ object, material, positions }: SolidPart, source: PlacedShape): void {
    const { recipe } = source.piece;
    this.#sources.push(source);
    this.object.push(object);
    this.material.push(recipe.material ?? material);
    this.weight.push(weightOfForm(recipe));
    this.boxes.append(boxOf(positions, recipe.vertices, recipe.edgeEnds));
  }

  #addPoints({ object, material, positions }: SolidPart, colours: Uint8Array | null): void {
    for (const { points, gap } of pointPieces(positions)) {
      if (Number.isFinite(gap)) this.#sizes.set(this.length, gap);
      this.#sources.push({ points, positions, colours });
      this.object.push(object);
      this.material.push(material);
      this.weight.push(Math.ceil(points.length / POINTS_PER_WEIGHT));
      this.boxes.append(boxOf(positions, points));
    }
  }
}

function boxOf(positions: Float64Array, ...lists: readonly Uint32Array[]): number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (const vertices of lists)
    for (let axis = 0; axis < 3; axis++) {
      let least = box[axis]!;
      let most = box[axis + 3]!;
      for (let i = 0; i < vertices.length; i++) {
        const value = positions[3 * vertices[i]! + axis]!;
        if (value < least) least = value;
        if (value > most) most = value;
      }
      box[axis] = least;
      box[axis + 3] = most;
    }
  return box;
}

const NO_NUMBERS = new Float64Array(0);
const NO_NORMALS = new Float32Array(0);

function shapeOf(part: SolidPart, positions: NumbersAt): KnownShape {
  const pieces: ShapePiece[] = [];
  const [turn, isShared] = [part.shape?.turn ?? UNTURNED, part.shape !== undefined];
  const shape: KnownShape = { pieces, positions, turn, isShared, places: 0 };
  for (const recipe of recipeOf(part)) pieces.push({ recipe, shape });
  return shape;
}

function pointsOf({ points, positions, colours }: PlacedPoints): SolidPiece {
  const own = colours && new Uint8Array(3 * points.length);
  if (own)
    for (let i = 0; i < points.length; i++)
      for (let channel = 0; channel < 3; channel++) own[3 * i + channel] = colours[3 * points[i]! + channel]!;
  return {
    positions: NO_NUMBERS,
    normals: NO_NORMALS,
    triangles: new Uint32Array(0),
    edgePositions: NO_NUMBERS,
    edgeNormals: NO_NORMALS,
    points: coordinatesOf(positions, points),
    pointColours: own,
  };
}

const UNTURNED = [1, 0, 0, 0, 1, 0, 0, 0, 1];

const sameNumbers = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/** What turns directions at the first place into those at the second: second · firstᵀ, row by row. */
function between(first: ArrayLike<number>, second: ArrayLike<number>): Float64Array {
  const turn = new Float64Array(9);
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 3; column++)
      for (let k = 0; k < 3; k++) turn[3 * row + column]! += second[3 * row + k]! * first[3 * column + k]!;
  return turn;
}

function placed({ recipe, positions: at, turn }: PlacedForm): SolidPiece {
  const positions = at.start === 0 ? at.block : at.block.subarray(at.start);
  const { normals, edgeNormals } = recipe;
  return {
    positions: coordinatesOf(positions, recipe.vertices),
    normals: turn ? turned(normals, turn) : normals,
    triangles: recipe.triangles,
    edgePositions: coordinatesOf(positions, recipe.edgeEnds),
    edgeNormals: turn ? turned(edgeNormals, turn) : edgeNormals,
    points: NO_NUMBERS,
    pointColours: null,
  };
}

/** x, y, z of some vertices. */
export function coordinatesOf(positions: Float64Array, vertices: Uint32Array): Float64Array {
  const own = new Float64Array(3 * vertices.length);
  for (let i = 0; i < vertices.length; i++) {
    const from = 3 * vertices[i]!;
    own[3 * i] = positions[from]!;
    own[3 * i + 1] = positions[from + 1]!;
    own[3 * i + 2] = positions[from + 2]!;
  }
  return own;
}

/** Directions by a turn, row by row. */
export function turned(normals: Float32Array, t: Float64Array): Float32Array {
  const own = new Float32Array(normals.length);
  for (let i = 0; i < normals.length; i += 3) {
    const [x, y, z] = [normals[i]!, normals[i + 1]!, normals[i + 2]!];
    own[i] = t[0]! * x + t[1]! * y + t[2]! * z;
    own[i + 1] = t[3]! * x + t[4]! * y + t[5]! * z;
    own[i + 2] = t[6]! * x + t[7]! * y + t[8]! * z;
  }
  return own;
}
