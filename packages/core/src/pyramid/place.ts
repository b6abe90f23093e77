import type { Memory } from '../geometry/growable.ts';

/** What can be placed: items with their boxes and costs, as columns. */
export interface Placeable {
  readonly length: number;
  /** 2 for flat drawings, 3 for solids. */
  readonly dimensions: 2 | 3;
  /** The least coordinates, then the largest, of each item. */
  readonly boxes: { view(): Float64Array };
  /** What drawing an item costs: segments and triangles. */
  readonly weight: { view(): Uint32Array };
  /** Size that decides when an item becomes visible, drawing units. */
  sizeOf(item: number): number;
}

/** One tile of the pyramid before it is encoded: what stands in it, and what its children still hold. */
export interface PlacedTile {
  /** Numbers of items. */
  readonly items: Uint32Array;
  /** The least coordinates, then the largest, over the items here and below. */
  readonly box: readonly number[];
  /** Size of the largest thing that stands only further down, drawing units. */
  readonly geometricError: number;
  readonly children: readonly PlacedTile[];
}

/** How many tiles there are from a tile downwards, itself included. */
export const tilesIn = ({ children }: PlacedTile): number => children.reduce((sum, child) => sum + tilesIn(child), 1);

export interface PlaceOptions {
  /** How much one tile holds at most, in segments. */
  readonly tileWeight: number;
  /** Evenly spread numbers in [0, 1). */
  readonly random: () => number;
  /** Where the tiles' items lie: shared, they go to another thread without being copied. */
  readonly memory?: Memory;
}

/** A tile without children withholds nothing; 3D Tiles clients need a value above 0. Drawing units. */
export const LEAF_ERROR = 0.01;

/** How much larger than the smallest the largest thing of a last tile may be. */
const SIZES_PER_TILE = 4;
/** Less than this isn't worth a tile of its own, in segments. */
const LEAST_WEIGHT = 600;

/**
 * Places every item in exactly one tile (additive refinement): a tile keeps the largest things up to its
 * weight, four children (eight in solids) hold the rest. What is seen best so comes first, and what a picture leaves out
 * is smallest. Of things of one size an even sample is kept.
 */
export function placeItems(table: Placeable, options: PlaceOptions): PlacedTile {
  return new Placer(table, options).place();
}

/**
 * Items are sorted within one list: a tile's come first, then those of each of its children. Of several that are not told
 * apart the one with the lower number comes first, so that a list is gone through in the order of memory.
 */
class Placer {
  readonly #boxes: Float64Array;
  readonly #weight: Uint32Array;
  readonly #size: Float64Array;
  readonly #dimensions: number;
  readonly #order: Uint32Array;
  readonly #isKept: Uint8Array;
  /** What is reckoned of one list at a time. */
  readonly #sizes: Float64Array;
  readonly #moved: Uint32Array;
  readonly #cells: Uint8Array;

  constructor(
    table: Placeable,
    private readonly options: PlaceOptions,
  ) {
    const { length } = table;
    this.#boxes = table.boxes.view();
    this.#weight = table.weight.view();
    this.#dimensions = table.dimensions;
    this.#size = new Float64Array(length);
    for (let item = 0; item < length; item++) this.#size[item] = table.sizeOf(item);
    this.#order = new Uint32Array(
      options.memory === 'shared' ? new SharedArrayBuffer(4 * length) : new ArrayBuffer(4 * length),
    );
    for (let item = 0; item < length; item++) this.#order[item] = item;
    this.#isKept = new Uint8Array(length);
    this.#sizes = new Float64Array(length);
    this.#moved = new Uint32Array(length);
    this.#cells = new Uint8Array(length);
  }

  place(): PlacedTile {
    return this.#place(this.#order.subarray(0, this.#size.length));
  }

  #place(items: Uint32Array): PlacedTile {
    const { box, middle, cost, most } = this.#survey(items);
    if (cost <= this.options.tileWeight || items.length === 1) return this.#last(items, box, cost, most);
    const count = this.#bringLargestFirst(items);
    const rest = items.subarray(count);
    const geometricError = Math.max(LEAF_ERROR, this.#largest(rest));
    const children = rest.length > 0 ? this.#parts(rest, middle).map((part) => this.#place(part)) : [];
    return { items: items.subarray(0, count), box, geometricError, children };
  }

  /** What fits in one tile; things of very different sizes still get several, so that far views needn't draw dust. */
  #last(items: Uint32Array, box: PlacedTile['box'], cost: number, most: number): PlacedTile {
    const whole = { items, box, geometricError: LEAF_ERROR, children: [] };
    let least = Infinity;
    for (let i = 0; i < items.length; i++) least = Math.min(least, this.#size[items[i]!]!);
    if (cost <= LEAST_WEIGHT * 2 || most < 2 * least) return whole;
    const cut = Math.max(most / SIZES_PER_TILE, Math.min(Math.sqrt(least * most), most / 2));
    for (let i = 0; i < items.length; i++) this.#isKept[items[i]!] = this.#size[items[i]!]! >= cut ? 1 : 0;
    const count = this.#keptFirst(items);
    const small = items.subarray(count);
    if (count === 0 || small.length === 0) return whole;
    const below = this.#survey(small);
    if (below.cost <= LEAST_WEIGHT) return whole;
    const children = [this.#last(small, below.box, below.cost, below.most)];
    return { items: items.subarray(0, count), box, geometricError: Math.max(LEAF_ERROR, below.most), children };
  }

  /** Brings as many of the largest as fit in a tile to the front. @returns how many */
  #bringLargestFirst(items: Uint32Array): number {
    const { tileWeight, random } = this.options;
    // an item weighs 1 at least: no more of the largest are looked at than could be kept
    const candidates = this.#largestOf(items, tileWeight + 1);
    // the sort keeps the random order among equals: of things of one size an even sample stays
    shuffle(candidates, random);
    const byFalling = this.#fallingBySize(candidates);
    let room = tileWeight;
    let count = 0;
    for (; count < byFalling.length; count++) {
      const weight = this.#weight[byFalling[count]!]!;
      if (weight > room && count > 0) break;
      room -= weight;
      this.#isKept[byFalling[count]!] = 1;
    }
    this.#keptFirst(items);
    items.set(byFalling.subarray(0, count));
    return count;
  }

  /** Brings kept items to the front; otherwise the order stays. @returns how many there are */
  #keptFirst(items: Uint32Array): number {
    let [kept, others] = [0, 0];
    for (let i = 0; i < items.length; i++) {
      const item = items[i]!;
      if (this.#isKept[item] === 1) items[kept++] = item;
      else this.#moved[others++] = item;
    }
    items.set(this.#moved.subarray(0, others), kept);
    return kept;
  }

  /** The so many largest of some items; of those of the least size among them any, evenly. */
  #largestOf(items: Uint32Array, count: number): Uint32Array {
    if (items.length <= count) return items.slice();
    const size = this.#size;
    const sizes = this.#sizes.subarray(0, items.length);
    for (let i = 0; i < items.length; i++) sizes[i] = size[items[i]!]!;
    const least = nthLargest(sizes, count);
    const chosen = new Uint32Array(count);
    let [larger, same] = [0, 0];
    for (let i = 0; i < items.length; i++) {
      const item = items[i]!;
      if (size[item]! > least) chosen[larger++] = item;
      else if (size[item] === least) this.#moved[same++] = item;
    }
    const equals = this.#moved.subarray(0, same);
    shuffle(equals, this.options.random, count - larger);
    chosen.set(equals.subarray(0, count - larger), larger);
    return chosen;
  }

  /** Sizes are sorted as numbers, which needs no function; those that are the same keep their order. */
  #fallingBySize(items: Uint32Array): Uint32Array {
    const sizes = new Float64Array(items.length);
    for (let i = 0; i < items.length; i++) sizes[i] = this.#size[items[i]!]!;
    const rising = sizes.slice().sort();
    // where the next item of each size goes
    const next = new Map<number, number>();
    for (let i = 0; i < rising.length; i++) {
      const own = rising[rising.length - 1 - i]!;
      if (!next.has(own)) next.set(own, i);
    }
    const falling = new Uint32Array(items.length);
    for (let i = 0; i < items.length; i++) {
      const at = next.get(sizes[i]!)!;
      falling[at] = items[i]!;
      next.set(sizes[i]!, at + 1);
    }
    return falling;
  }

  #largest(items: Uint32Array): number {
    let most = 0;
    for (let i = 0; i < items.length; i++) most = Math.max(most, this.#size[items[i]!]!);
    return most;
  }

  /** Looks through items once: they lie far apart in memory, so that a look takes longer than what is reckoned. */
  #survey(items: Uint32Array): Survey {
    const dimensions = this.#dimensions;
    const boxes = this.#boxes;
    const low = new Float64Array(dimensions).fill(Infinity);
    const high = new Float64Array(dimensions).fill(-Infinity);
    const first = new Float64Array(dimensions).fill(Infinity);
    const last = new Float64Array(dimensions).fill(-Infinity);
    let [cost, most] = [0, 0];
    for (let i = 0; i < items.length; i++) {
      const item = items[i]!;
      cost += this.#weight[item]!;
      most = Math.max(most, this.#size[item]!);
      const at = 2 * dimensions * item;
      for (let axis = 0; axis < dimensions; axis++) {
        const begin = boxes[at + axis]!;
        const end = boxes[at + dimensions + axis]!;
        if (begin < low[axis]!) low[axis] = begin;
        if (end > high[axis]!) high[axis] = end;
        if (begin + end < first[axis]!) first[axis] = begin + end;
        if (begin + end > last[axis]!) last[axis] = begin + end;
      }
    }
    const middle = Array.from(first, (value, axis) => (value + last[axis]!) / 2);
    return { box: [...low, ...high], middle, cost, most };
  }

  /**
   * Splits by the middle in each direction; items that all lie on one side are split by number.
   * @param middle twice the place
   */
  #parts(items: Uint32Array, middle: readonly number[]): Uint32Array[] {
    const dimensions = this.#dimensions;
    const boxes = this.#boxes;
    const begins = new Uint32Array(2 ** dimensions + 1);
    for (let i = 0; i < items.length; i++) {
      const at = 2 * dimensions * items[i]!;
      let cell = 0;
      for (let axis = 0; axis < dimensions; axis++)
        if (boxes[at + axis]! + boxes[at + dimensions + axis]! > middle[axis]!) cell |= 1 << axis;
      this.#cells[i] = cell;
      begins[cell + 1]!++;
    }
    if (items.length > 1 && begins.includes(items.length)) {
      const half = items.length >> 1;
      return [items.subarray(0, half), items.subarray(half)];
    }
    for (let cell = 1; cell < begins.length; cell++) begins[cell]! += begins[cell - 1]!;
    const next = begins.slice();
    for (let i = 0; i < items.length; i++) this.#moved[next[this.#cells[i]!]!++] = items[i]!;
    items.set(this.#moved.subarray(0, items.length));
    return Array.from({ length: 2 ** dimensions }, (_, cell) => items.subarray(begins[cell], begins[cell + 1])).filter(
      (part) => part.length > 0,
    );
  }
}

interface Survey {
  readonly box: number[];
  /** In each direction twice the middle of the span of the items' centres. */
  readonly middle: number[];
  /** What drawing them all costs. */
  readonly cost: number;
  /** Size of the largest. */
  readonly most: number;
}

/**
 * The n-th largest of some numbers, from 1 (C. A. R. Hoare, "Algorithm 65: find", CACM 4, 1961).
 * @param values are put into another order
 */
export function nthLargest(values: Float64Array, n: number): number {
  let [low, high] = [0, values.length - 1];
  const target = n - 1;
  while (low < high) {
    const pivot = medianOfThree(values[low]!, values[(low + high) >> 1]!, values[high]!);
    let [i, j] = [low, high];
    while (i <= j) {
      while (values[i]! > pivot) i++;
      while (values[j]! < pivot) j--;
      if (i > j) break;
      const swap = values[i]!;
      values[i++] = values[j]!;
      values[j--] = swap;
    }
    if (target <= j) high = j;
    else if (target >= i) low = i;
    else return values[target]!;
  }
  return values[target]!;
}

const medianOfThree = (a: number, b: number, c: number): number =>
  Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));

/** Fisher–Yates, from the front. @param count only so many need come in random order, of all */
function shuffle(items: Uint32Array, random: () => number, count = items.length): void {
  for (let i = 0; i < Math.min(count, items.length - 1); i++) {
    const j = i + Math.floor(random() * (items.length - i));
    const swap = items[i]!;
    items[i] = items[j]!;
    items[j] = swap;
  }
}
