import { Growable } from '../geometry/growable.ts';
import { recipeOf, type PieceRecipe } from './mesh-recipe.ts';
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
}

/** How a shape that stands at several places is drawn, and how it was turned where that was found out. */
interface KnownShape {
  readonly recipe: readonly PieceRecipe[];
  readonly turn: SharedShape['turn'];
}

/** A piece before it is placed. */
interface Source {
  readonly recipe: PieceRecipe;
  /** Of the whole part. */
  readonly positions: Float64Array;
  /** From where the recipe was made to where the part stands, row by row; null where that is the same. */
  readonly turn: Float64Array | null;
}

/** Everything that tiles of a solid are made of. */
export class SolidItems {
  readonly dimensions = 3;
  readonly object = new Growable(Uint32Array);
  readonly material = new Growable(Uint32Array);
  /** What drawing it costs: triangles and edges. */
  readonly weight = new Growable(Uint32Array);
  /** The least coordinates, then the largest, of each item. */
  readonly boxes = new Growable(Float64Array);
  /** Pieces are placed when they are asked for: there may be a million of one shape. */
  readonly #sources: Source[] = [];
  readonly #known = new WeakMap<object, KnownShape>();

  get length(): number {
    return this.#sources.length;
  }

  /** How an item is drawn where it stands. */
  piece(item: number): SolidPiece {
    const { recipe, positions, turn } = this.#sources[item]!;
    return placed(recipe, positions, turn);
  }

  edgeCountOf(item: number): number {
    return this.#sources[item]!.recipe.edgeEnds.length / 2;
  }

  /** Longest side of its box. */
  sizeOf(item: number): number {
    const at = 6 * item;
    const box = this.boxes;
    return Math.max(box.at(at + 3) - box.at(at), box.at(at + 4) - box.at(at + 1), box.at(at + 5) - box.at(at + 2));
  }

  /** Takes a part apart into pieces with smooth normals and edges. @returns how many triangles it has that have an area */
  add(part: SolidPart): number {
    const { shape } = part;
    let known = shape && this.#known.get(shape.key);
    if (!known) {
      known = { recipe: recipeOf(part), turn: shape?.turn ?? UNTURNED };
      if (shape) this.#known.set(shape.key, known);
    }
    const turn = shape && shape.turn !== known.turn ? between(known.turn, shape.turn) : null;
    let count = 0;
    for (const recipe of known.recipe) {
      this.#add(part, { recipe, positions: part.positions, turn });
      count += recipe.triangles.length / 3;
    }
    return count;
  }

  #add({ object, material }: SolidPart, source: Source): void {
    const { recipe, positions } = source;
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (const vertices of [recipe.vertices, recipe.edgeEnds])
      for (const vertex of vertices)
        for (let axis = 0; axis < 3; axis++) {
          const value = positions[3 * vertex + axis]!;
          if (value < box[axis]!) box[axis] = value;
          if (value > box[axis + 3]!) box[axis + 3] = value;
        }
    this.#sources.push(source);
    this.object.push(object);
    this.material.push(recipe.material ?? material);
    this.weight.push(recipe.triangles.length / 3 + recipe.edgeEnds.length / 2);
    this.boxes.append(box);
  }
}

const UNTURNED = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** What turns directions at the first place into those at the second: second · firstᵀ, row by row. */
function between(first: ArrayLike<number>, second: ArrayLike<number>): Float64Array {
  const turn = new Float64Array(9);
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 3; column++)
      for (let k = 0; k < 3; k++) turn[3 * row + column]! += second[3 * row + k]! * first[3 * column + k]!;
  return turn;
}

function placed(recipe: PieceRecipe, positions: Float64Array, turn: Float64Array | null): SolidPiece {
  const { normals, edgeNormals } = recipe;
  return {
    positions: gathered(positions, recipe.vertices),
    normals: turn ? turned(normals, turn) : normals,
    triangles: recipe.triangles,
    edgePositions: gathered(positions, recipe.edgeEnds),
    edgeNormals: turn ? turned(edgeNormals, turn) : edgeNormals,
  };
}

function gathered(positions: Float64Array, vertices: Uint32Array): Float64Array {
  const own = new Float64Array(3 * vertices.length);
  for (let i = 0; i < vertices.length; i++) {
    const from = 3 * vertices[i]!;
    own[3 * i] = positions[from]!;
    own[3 * i + 1] = positions[from + 1]!;
    own[3 * i + 2] = positions[from + 2]!;
  }
  return own;
}

function turned(normals: Float32Array, t: Float64Array): Float32Array {
  const own = new Float32Array(normals.length);
  for (let i = 0; i < normals.length; i += 3) {
    const [x, y, z] = [normals[i]!, normals[i + 1]!, normals[i + 2]!];
    own[i] = t[0]! * x + t[1]! * y + t[2]! * z;
    own[i + 1] = t[3]! * x + t[4]! * y + t[5]! * z;
    own[i + 2] = t[6]! * x + t[7]! * y + t[8]! * z;
  }
  return own;
}
