import { areasOf, coarsen, type CoarseMesh, type LocksOf, type Simplify } from './coarse-mesh.ts';
import { MeshComponents } from './mesh-components.ts';
import type { NumbersAt, PieceRecipe } from './mesh-recipe.ts';
import {
  placedForm,
  weightOfForm,
  weightOfPiece,
  type KnownShape,
  type PlacedShape,
  type SolidItems,
  type TilePiece,
} from './solid-items.ts';
import { joinForms, takeThinBars } from './thin-parts.ts';
import { VertexUses } from './vertex-uses.ts';

/** What is no larger than so many times the error is left out: where that is half a px, it is a px. */
const LEAST_SIZE = 2;
/** Edges of things smaller than this, as multiples of the error, would only blacken them. */
const LEAST_EDGED = 18;
/** So much of their area those parts of a mesh keep, that pipes and rails don't vanish between their ends … */
const KEPT_AREA = 0.85;
/** … that are longer than this and wider than this, as multiples of the error: what is narrower is hardly seen. */
const [LEAST_LENGTH, LEAST_WIDTH] = [6, 0.3];
/** A form with more of the triangles than this saves nothing. */
const WORTHWHILE = 0.6;
/** Straight bars of this thickness, as a multiple of the error, are drawn as sheets: their sides can't be told apart. */
const BAR = { least: 0.05, most: 0.5 } as const;
/** Errors are this much apart from one kept form of a shape to the next. */
const STEP = 2;
/** Finer than by so many steps no form is made. */
const MOST_STEPS = 16;

/** What a coarse form is to weigh, in triangles and edges. */
export interface CoarseLimits {
  /** As soon as it is known that all of them weigh more than this the search ends: what is found is of no use. */
  readonly tooHeavy?: number;
  /** Where all that is chosen is one mesh in several pieces: it is made coarser than asked, until it weighs no more than this … */
  readonly wanted?: number;
  /** … or is as far as this from where it was. Drawing units. */
  readonly mostError?: number;
}

/** What stands for some items, and what drawing it costs; without pieces if it is too heavy. */
export interface CoarseForms {
  readonly pieces: readonly TilePiece[];
  readonly weight: number;
  /** How far surfaces may be from where they are, drawing units. */
  readonly error: number;
}

/** Lighter forms are made so much lighter than they must be, as edges don't become fewer at the same rate … */
const LIGHTER = 0.97;
/** … and so often. */
const MOST_LIGHTER = 3;
type Lighter = Required<Pick<CoarseLimits, 'wanted' | 'mostError'>>;
const NO_LIGHTER: Lighter = { wanted: Infinity, mostError: 0 };

/** What many things look like from afar: the coarser forms of their shapes, made once a shape where it stands several times. */
export class CoarseItems {
  readonly #ladders = new Map<KnownShape, Map<number, Ladder>>();
  /** Of parts in several pieces the forms that were made last, by the part's numbers and material: coarser ones are made of them. */
  readonly #made = new Map<NumbersAt, Map<number, MadeForms[]>>();
  readonly #edgeless = new WeakMap<PieceRecipe, PieceRecipe>();
  readonly #uses = new WeakMap<KnownShape, VertexUses>();
  /** Of each item: longest side of its box, drawing units … */
  readonly #sizes: Float64Array;
  /** … and what it weighs in every form, with its edges and without; 0 where it can be made coarser. */
  readonly #leastWeights: Uint32Array;
  readonly #edgelessWeights: Uint32Array;

  /** @param items all that there will be */
  constructor(
    private readonly items: SolidItems,
    private readonly simplify: Simplify,
  ) {
    const count = items.length;
    this.#sizes = new Float64Array(count);
    [this.#leastWeights, this.#edgelessWeights] = [new Uint32Array(count), new Uint32Array(count)];
    for (let item = 0; item < count; item++) {
      this.#sizes[item] = items.sizeOf(item);
      const source = items.source(item);
      const recipe = 'points' in source ? null : source.piece.recipe;
      if (recipe && (recipe.triangles.length > 3 || !isInOnePiece(source as PlacedShape))) continue;
      this.#leastWeights[item] = items.weight.at(item);
      this.#edgelessWeights[item] = recipe && recipe.triangles.length > 0 ? 1 : items.weight.at(item);
    }
  }

  /**
   * @param chosen numbers of items; if some of them were chosen and kept before, then all that were chosen together
   * @param error how far surfaces may be from where they are, drawing units; never less than for any of them that were kept
   * @param keeps whether coarser forms of the same items are to be made of these; if not, parts in several pieces of which
   * nothing was kept stay as they are
   */
  of(chosen: Uint32Array, error: number, keeps: boolean, limits: CoarseLimits = {}): CoarseForms {
    const { tooHeavy = Infinity, wanted = Infinity } = limits;
    const least = this.#leastWeight(chosen, error);
    if (least > tooHeavy) return { pieces: [], weight: least, error };
    const pieces: TilePiece[] = [];
    let weight = 0;
    const take = (piece: TilePiece): void => {
      pieces.push(piece);
      weight += weightOfPiece(piece);
    };
    const groups = this.#groups(chosen, error);
    let most = error;
    for (const group of groups) {
      if (weight > tooHeavy) break;
      const size = this.#sizeOf(group);
      if (size < LEAST_SIZE * error) continue;
      const first = this.items.source(group[0]!);
      if ('points' in first) {
        take(this.items.tilePiece(group[0]!));
        continue;
      }
      const lighter = groups.length === 1 ? { wanted, mostError: limits.mostError ?? error } : NO_LIGHTER;
      const { recipes, isOwn, error: own = error } = this.#formsOf(group, first, error, keeps, lighter);
      most = Math.max(most, own);
      for (const form of recipes) {
        const recipe = size < LEAST_EDGED * error ? this.#withoutEdges(form) : form;
        const [object, material] = [this.items.object.at(group[0]!), this.items.material.at(group[0]!)];
        const placed = placedForm(first, recipe);
        take({ object, material, form: isOwn ? { ...placed, shared: null } : placed });
      }
    }
    return { pieces, weight, error: most };
  }

  /** What those weigh that can't be made coarser, only left out: single triangles, lines and points. */
  #leastWeight(chosen: Uint32Array, error: number): number {
    const [leftOut, edgeless] = [LEAST_SIZE * error, LEAST_EDGED * error];
    let weight = 0;
    for (let i = 0; i < chosen.length; i++) {
      const item = chosen[i]!;
      const size = this.#sizes[item]!;
      if (size < leftOut) continue;
      weight += size < edgeless ? this.#edgelessWeights[item]! : this.#leastWeights[item]!;
    }
    return weight;
  }

  /** Items by the part that they are pieces of and their material; those that are too small by themselves are left out. */
  #groups(chosen: Uint32Array, error: number): readonly number[][] {
    // a part's numbers are kept once: they tell it
    const groups = new Map<NumbersAt, Map<number, number[]>>();
    const alone: number[][] = [];
    for (const item of chosen) {
      const source = this.items.source(item);
      if ('points' in source || isInOnePiece(source)) {
        if (this.#sizes[item]! >= LEAST_SIZE * error) alone.push([item]);
        continue;
      }
      const ofPart = known(groups, source.positions, () => new Map<number, number[]>());
      known(ofPart, this.items.material.at(item), (): number[] => []).push(item);
    }
    return [...alone, ...[...groups.values()].flatMap((ofPart) => [...ofPart.values()])];
  }

  #sizeOf(group: readonly number[]): number {
    if (group.length === 1) return this.#sizes[group[0]!]!;
    let most = 0;
    for (let axis = 0; axis < 3; axis++) {
      let [low, high] = [Infinity, -Infinity];
      for (const item of group) {
        low = Math.min(low, this.items.boxes.at(6 * item + axis));
        high = Math.max(high, this.items.boxes.at(6 * item + axis + 3));
      }
      most = Math.max(most, high - low);
    }
    return most;
  }

  #formsOf(
    group: readonly number[],
    { piece, positions }: PlacedShape,
    error: number,
    keeps: boolean,
    lighter: Lighter,
  ): FormsOfGroup {
    const { shape } = piece;
    const own = group.map((item) => (this.items.source(item) as PlacedShape).piece.recipe);
    const ofMaterial = shape.pieces.filter(({ recipe }) => recipe.material === piece.recipe.material);
    const locked = own.length < shape.pieces.length ? this.#lockedIn(shape, own) : null;
    if (own.length < ofMaterial.length || (own.length > 1 && !shape.isShared)) {
      const ofPart = known(this.#made, positions, () => new Map<number, MadeForms[]>());
      const material = piece.recipe.material ?? -1;
      const made = ofPart.get(material) ?? [];
      const [inputs, others] = takeFrom(made, group, own);
      if (!keeps && others.length === made.length) return { recipes: own, isOwn: false };
      const { recipe, error: most } = this.#coarsened(inputs, positions, error, locked, lighter);
      const forms = [recipe];
      if (keeps) ofPart.set(material, [...others, { items: group, forms }]);
      return { recipes: forms, isOwn: true, error: most };
    }
    if (!shape.isShared) return { recipes: formOf(own, positions, error, locked, this.simplify), isOwn: true };
    const ladders = known(this.#ladders, shape, () => new Map<number, Ladder>());
    const make = (): Ladder => new Ladder(own, shape.positions, locked, this.simplify);
    return { recipes: known(ladders, piece.recipe.material ?? -1, make).form(positions, error), isOwn: false };
  }

  /** A mesh as coarse as it may be, or coarser, until it is light enough. */
  #coarsened(
    inputs: readonly PieceRecipe[],
    positions: NumbersAt,
    error: number,
    locked: LocksOf | null,
    { wanted, mostError }: Lighter,
  ): CoarseMesh {
    const to = (pieces: readonly PieceRecipe[], most: number, enough: number): CoarseMesh =>
      coarsen(pieces, positions, most, locked, this.simplify, enough);
    let form = null as CoarseMesh | null;
    for (let tried = 0; tried < MOST_LIGHTER; tried++) {
      const pieces: readonly PieceRecipe[] = form ? [form.recipe] : inputs;
      const weight = pieces.reduce((sum, recipe) => sum + weightOfForm(recipe), 0);
      if (weight <= wanted) break;
      const triangles = pieces.reduce((sum, recipe) => sum + recipe.triangles.length / 3, 0);
      const lighter = to(pieces, mostError, Math.floor((LIGHTER * wanted * triangles) / weight));
      form = { ...lighter, error: Math.max(lighter.error, form?.error ?? 0) };
    }
    if (form && form.error >= error) return form;
    return { ...to(form ? [form.recipe] : inputs, error, 0), error };
  }

  /** Vertices that other pieces of a shape have, too. */
  #lockedIn(shape: KnownShape, own: readonly PieceRecipe[]): LocksOf {
    const uses = known(this.#uses, shape, () => new VertexUses(shape.pieces.map(({ recipe }) => recipe)));
    return (vertices) => uses.sharedWithOthers(own, vertices);
  }

  /** The same one each time, so that a shape is known by it. */
  #withoutEdges(recipe: PieceRecipe): PieceRecipe {
    if (recipe.edgeEnds.length === 0 || recipe.triangles.length === 0) return recipe;
    return known(this.#edgeless, recipe, () => ({ ...recipe, ...NO_EDGES }));
  }
}

const isInOnePiece = ({ piece }: PlacedShape): boolean => piece.shape.pieces.length === 1;

/** What stands for some items, and whether it was made for this place alone. */
interface FormsOfGroup {
  readonly recipes: readonly PieceRecipe[];
  readonly isOwn: boolean;
  /** How far it is off, where that isn't as far as it may be. */
  readonly error?: number;
}

/** What stands for some items of one part. */
interface MadeForms {
  readonly items: readonly number[];
  readonly forms: readonly PieceRecipe[];
}

/** @returns what a coarser form of a group is made of, and what stands for other items */
function takeFrom(
  made: readonly MadeForms[],
  group: readonly number[],
  own: readonly PieceRecipe[],
): [inputs: PieceRecipe[], others: MadeForms[]] {
  const isWanted = new Set(group);
  const isMade = new Set<number>();
  const inputs: PieceRecipe[] = [];
  const others: MadeForms[] = [];
  for (const one of made) {
    if (!one.items.every((item) => isWanted.has(item))) {
      others.push(one);
      continue;
    }
    inputs.push(...one.forms);
    for (const item of one.items) isMade.add(item);
  }
  group.forEach((item, at) => {
    if (!isMade.has(item)) inputs.push(own[at]!);
  });
  return [inputs, others];
}

/** The forms of a shape that stands several times, from very coarse to its own. */
class Ladder {
  /** Two vertices and their distance in the first placement; their distance in another placement gives its scale. */
  readonly #ends: readonly [number, number];
  readonly #length: number;
  readonly #forms = new Map<number, readonly PieceRecipe[]>();

  constructor(
    private readonly own: readonly PieceRecipe[],
    private readonly positions: NumbersAt,
    private readonly locksOf: LocksOf | null,
    private readonly simplify: Simplify,
  ) {
    const first = own[0]!.vertices[0] ?? own[0]!.edgeEnds[0] ?? 0;
    let [far, most] = [first, 0];
    for (const { vertices } of own)
      for (const vertex of vertices) {
        const distance = between(positions, first, vertex);
        if (distance > most) [far, most] = [vertex, distance];
      }
    this.#ends = [first, far];
    this.#length = most;
  }

  /** @param positions where it stands now */
  form(positions: NumbersAt, error: number): readonly PieceRecipe[] {
    const length = between(positions, ...this.#ends);
    if (!(length > 0)) return this.own;
    const step = Math.max(Math.ceil(Math.log(length / error) / Math.log(STEP)), 0);
    if (step > MOST_STEPS) return this.own;
    let form = this.#forms.get(step);
    if (!form) {
      const own = this.#length / STEP ** step;
      form = formOf(this.own, this.positions, own, this.locksOf, this.simplify);
      this.#forms.set(step, form);
    }
    return form;
  }
}

/** A mesh as coarse as an error allows; as it is where that saves little. */
function formOf(
  own: readonly PieceRecipe[],
  positions: NumbersAt,
  error: number,
  locksOf: LocksOf | null,
  simplify: Simplify,
): readonly PieceRecipe[] {
  const triangles = own.reduce((sum, recipe) => sum + recipe.triangles.length, 0);
  // of one triangle none could be left but itself
  if (triangles <= 3) return own;
  if (own.length > 1) return [coarsen(own, positions, error, locksOf, simplify).recipe];
  const [mesh] = own as [PieceRecipe];
  const components = new MeshComponents(own, positions);
  const larger = (form: PieceRecipe): PieceRecipe =>
    components.ofLarger(form, LEAST_LENGTH * error, LEAST_WIDTH * error);
  const large = components.withoutSmaller(mesh, LEAST_SIZE * error);
  const { sheets, rest } = locksOf
    ? { sheets: null, rest: large }
    : takeThinBars(large, components, positions, { least: BAR.least * error, most: BAR.most * error });
  const areaOf = (form: PieceRecipe): number => areasOf(larger(form), positions).reduce((sum, area) => sum + area, 0);
  const area = KEPT_AREA * areaOf(rest);
  for (let [tried, allowed] = [0, error]; tried < MOST_STEPS; tried++, allowed /= STEP) {
    const { recipe } = coarsen([rest], positions, allowed, locksOf, simplify);
    const form = sheets ? joinForms(recipe, sheets) : recipe;
    if (form.triangles.length > WORTHWHILE * triangles) return own;
    if (areaOf(recipe) >= area) return form.triangles.length > 0 ? [form] : [];
  }
  return own;
}

/** What a map has under a key; made if it has nothing. */
function known<Key extends object | number, Value>(
  map: { get(key: Key): Value | undefined; set(key: Key, value: Value): unknown },
  key: Key,
  make: () => Value,
): Value {
  let value = map.get(key);
  if (value === undefined) map.set(key, (value = make()));
  return value;
}

const NO_EDGES = { edgeEnds: new Uint32Array(0), edgeNormals: new Float32Array(0) };

function between({ block, start }: NumbersAt, a: number, b: number): number {
  const [from, to] = [start + 3 * a, start + 3 * b];
  const [x, y, z] = [block[to]! - block[from]!, block[to + 1]! - block[from + 1]!, block[to + 2]! - block[from + 2]!];
  return Math.sqrt(x * x + y * y + z * z);
}
