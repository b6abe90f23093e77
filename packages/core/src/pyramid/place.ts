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
  readonly items: readonly number[];
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
}

/** A tile without children withholds nothing; 3D Tiles clients need a value above 0. Drawing units. */
export const LEAF_ERROR = 0.01;

/** How much larger than the smallest the largest thing of a last tile may be. */
const SIZES_PER_TILE = 4;
/** Less than this isn't worth a tile of its own, in segments. */
const LEAST_WEIGHT = 600;

/**
 * Places every item in exactly one tile (additive refinement): a tile keeps the largest things up to its
 * weight, four children (eight in solids) hold the rest. What is seen best so comes first, and what a picture leaves out is smallest.
 */
export function placeItems(table: Placeable, options: PlaceOptions): PlacedTile {
  const size = new Float64Array(table.length);
  for (let item = 0; item < table.length; item++) size[item] = table.sizeOf(item);
  const { dimensions } = table;
  const boxes = table.boxes.view();
  const weight = table.weight.view();
  const order = shuffled(table.length, options.random);
  const isKept = new Uint8Array(table.length);

  const place = (items: Uint32Array): PlacedTile => {
    const box = boxOf(boxes, items, dimensions);
    if (sum(weight, items) <= options.tileWeight || items.length === 1) return last(items, box);
    const { kept, rest } = choose(items);
    let withheld = LEAF_ERROR;
    for (const item of rest) withheld = Math.max(withheld, size[item]!);
    const children = parts(boxes, rest, dimensions).map(place);
    return { items: kept, box, geometricError: withheld, children };
  };

  /** What fits in one tile; things of very different sizes still get several, so that far views needn't draw dust. */
  const last = (items: Uint32Array, box: PlacedTile['box']): PlacedTile => {
    let [smallest, largest] = [Infinity, 0];
    for (const item of items) {
      smallest = Math.min(smallest, size[item]!);
      largest = Math.max(largest, size[item]!);
    }
    const cut = Math.max(largest / SIZES_PER_TILE, Math.min(Math.sqrt(smallest * largest), largest / 2));
    const small = items.filter((item) => size[item]! < cut);
    const isWorthIt = sum(weight, items) > LEAST_WEIGHT * 2 && sum(weight, small) > LEAST_WEIGHT;
    if (!isWorthIt || small.length === items.length || largest < 2 * smallest) {
      return { items: Array.from(items), box, geometricError: LEAF_ERROR, children: [] };
    }
    let withheld = LEAF_ERROR;
    for (const item of small) withheld = Math.max(withheld, size[item]!);
    const kept = Array.from(items.filter((item) => size[item]! >= cut));
    return { items: kept, box, geometricError: withheld, children: [last(small, boxOf(boxes, small, dimensions))] };
  };

  const choose = (items: Uint32Array): { kept: number[]; rest: Uint32Array } => {
    // an item weighs 1 at least: no more of the largest are looked at than could be kept
    const candidates = largestOf(items, size, options.tileWeight + 1);
    // items come in random order and the sort keeps it among equals: of things of one size an even sample stays
    const byFalling = Array.from(candidates).sort((i, j) => size[j]! - size[i]!);
    let room = options.tileWeight;
    let count = 0;
    for (const item of byFalling) {
      if (weight[item]! > room && count > 0) break;
      room -= weight[item]!;
      count++;
    }
    const kept = byFalling.slice(0, count);
    for (const item of kept) isKept[item] = 1;
    return { kept, rest: items.filter((item) => isKept[item] === 0) };
  };

  return place(order);
}

/** The so many largest of some items, in their order; of those of the least size among them the first. */
function largestOf(items: Uint32Array, size: Float64Array, count: number): Uint32Array {
  if (items.length <= count) return items;
  const least = nthLargest(
    Float64Array.from(items, (item) => size[item]!),
    count,
  );
  let ties = count;
  for (const item of items) if (size[item]! > least) ties--;
  return items.filter((item) => size[item]! > least || (size[item] === least && ties-- > 0));
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

/** Fisher–Yates, so that the head of any run of items is an even sample of it. */
function shuffled(count: number, random: () => number): Uint32Array {
  const order = Uint32Array.from({ length: count }, (_, index) => index);
  for (let i = count - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    const swap = order[i]!;
    order[i] = order[j]!;
    order[j] = swap;
  }
  return order;
}

/** Splits by the middle of the items' centres in each direction; items that share one centre are split by number. */
function parts(boxes: Float64Array, items: Uint32Array, dimensions: number): Uint32Array[] {
  const centre = (item: number, axis: number): number =>
    (boxes[2 * dimensions * item + axis]! + boxes[2 * dimensions * item + dimensions + axis]!) / 2;
  const middles = Array.from({ length: dimensions }, (_, axis) => {
    let [least, most] = [Infinity, -Infinity];
    for (const item of items) {
      const at = centre(item, axis);
      least = Math.min(least, at);
      most = Math.max(most, at);
    }
    return (least + most) / 2;
  });
  const cells = Array.from({ length: 2 ** dimensions }, (): number[] => []);
  for (const item of items) {
    let cell = 0;
    for (let axis = 0; axis < dimensions; axis++) if (centre(item, axis) > middles[axis]!) cell += 2 ** axis;
    cells[cell]!.push(item);
  }
  const filled = cells.filter((cell) => cell.length > 0);
  if (filled.length === 1 && items.length > 1) {
    const half = items.length >> 1;
    return [items.slice(0, half), items.slice(half)];
  }
  return filled.map((cell) => Uint32Array.from(cell));
}

function sum(weight: Uint32Array, items: Uint32Array): number {
  let total = 0;
  for (const item of items) total += weight[item]!;
  return total;
}

function boxOf(boxes: Float64Array, items: Uint32Array, dimensions: number): number[] {
  const box = Array.from({ length: 2 * dimensions }, (_, at) => (at < dimensions ? Infinity : -Infinity));
  for (const item of items)
    for (let at = 0; at < box.length; at++) {
      const value = boxes[box.length * item + at]!;
      box[at] = at < dimensions ? Math.min(box[at]!, value) : Math.max(box[at]!, value);
    }
  return box;
}
