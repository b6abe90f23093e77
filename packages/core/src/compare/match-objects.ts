import { Buckets, mix } from './buckets.ts';
import { NONE, type CompareSide } from './compare-side.ts';

/** What differs between two revisions of one object. */
export type ChangeWay = 'moved' | 'reshaped' | 'restyled' | 'label' | 'layer';

/** An object that is in both revisions and differs. */
export interface ChangedPair {
  readonly before: number;
  readonly after: number;
  readonly ways: readonly ChangeWay[];
  /** How far it was moved, drawing units; absent if it wasn't. */
  readonly by?: readonly number[];
}

/** All that differs between two revisions; the rest is the same. */
export interface Matched {
  readonly gone: readonly number[];
  readonly added: readonly number[];
  readonly changed: readonly ChangedPair[];
  /** Of each object of the later revision the one of the earlier that it is unchanged; −1 for all others. */
  readonly same: Int32Array<ArrayBuffer>;
}

/** Coordinates that differ by less are the same, drawing units: ten times what other writers round to. */
export const USUAL_TOLERANCE = 1e-4;

/** A grid for places that are the same within the tolerance is coarser by this. */
const CELL_FACTOR = 1024;
/** Boxes of a reshaped object overlap by so much of both, or it is another one. */
const LEAST_OVERLAP = 0.2;
/** So many objects of one shape are tried against one another; of more, the first of one is the first of the other. */
const MOST_TRIED = 64;

/**
 * Finds out which objects of two revisions are the same, and what differs in those that are but were changed: first by
 * the names that the file gives them, then by place and shape, by shape alone, by place alone.
 * @param tolerance coordinates that differ by less are the same, drawing units
 */
export function matchObjects(before: CompareSide, after: CompareSide, tolerance = USUAL_TOLERANCE): Matched {
  const match = new Matching(before, after, tolerance);
  match.byKey();
  match.byPlace(true);
  match.byPlace(false);
  match.byShape();
  match.byLikeness();
  return match.result();
}

class Matching {
  readonly #ofBefore: Int32Array;
  readonly #ofAfter: Int32Array<ArrayBuffer>;
  readonly #changed: ChangedPair[] = [];

  constructor(
    private readonly before: CompareSide,
    private readonly after: CompareSide,
    private readonly tolerance: number,
  ) {
    this.#ofBefore = new Int32Array(before.count).fill(NONE);
    this.#ofAfter = new Int32Array(after.count).fill(NONE);
  }

  result(): Matched {
    const open = (of: Int32Array): number[] => [...of.keys()].filter((object) => of[object] === NONE);
    const same = this.#ofAfter.slice();
    for (const { after } of this.#changed) same[after] = NONE;
    return {
      same,
      gone: open(this.#ofBefore),
      added: open(this.#ofAfter),
      changed: this.#changed.sort((a, b) => a.after - b.after),
    };
  }

  /** Names that only one object of each revision has. */
  byKey(): void {
    const unique = (side: CompareSide): Map<number, number> => {
      const known = new Map<number, number>();
      for (let object = 0; object < side.count; object++) {
        const key = side.keys.at(object);
        if (key !== NONE) known.set(key, known.has(key) ? NONE : object);
      }
      return known;
    };
    const others = unique(this.after);
    for (const [key, object] of unique(this.before)) {
      const other = others.get(key) ?? NONE;
      if (object !== NONE && other !== NONE && this.before.kinds.at(object) === this.after.kinds.at(other))
        this.#pair(object, other);
    }
  }

  /** The same shape in the same place. @param isExact whether layer, style and label are the same, too */
  byPlace(isExact: boolean): void {
    const { before, after, tolerance } = this;
    const cell = tolerance * CELL_FACTOR;
    const buckets = new Buckets(after.count);
    for (let other = 0; other < after.count; other++)
      if (this.#ofAfter[other] === NONE) buckets.add(placeHash(after, other, cell), other);
    for (let object = 0; object < before.count; object++) {
      if (this.#ofBefore[object] !== NONE) continue;
      let best = NONE;
      let most = -1;
      for (const hash of nearHashes(before, object, cell, tolerance))
        for (let other = buckets.first(hash); other !== NONE; other = buckets.after(other)) {
          if (this.#ofAfter[other] !== NONE || !this.#isSamePlace(object, other)) continue;
          const alike = this.#alike(object, other);
          if (isExact ? alike === 3 : alike > most) [best, most] = [other, alike];
          if (alike === 3) break;
        }
      if (best !== NONE) this.#pair(object, best);
    }
  }

  /** The same shape in another place: the nearest, of the same look if there is one. */
  byShape(): void {
    const { before, after } = this;
    const cell = this.tolerance * CELL_FACTOR;
    const groups = new Map<number, { readonly gone: number[]; readonly added: number[] }>();
    for (let other = 0; other < after.count; other++) {
      if (this.#ofAfter[other] !== NONE) continue;
      const [hash] = shapeHashes(after, other, cell, 0);
      const group = groups.get(hash!);
      if (group) group.added.push(other);
      else groups.set(hash!, { gone: [], added: [other] });
    }
    for (let object = 0; object < before.count; object++) {
      if (this.#ofBefore[object] !== NONE) continue;
      const hashes = shapeHashes(before, object, cell, 2 * this.tolerance);
      for (const hash of hashes) groups.get(hash)?.gone.push(object);
    }
    for (const { gone, added } of groups.values()) {
      if (gone.length > MOST_TRIED || added.length > MOST_TRIED) {
        const count = Math.min(gone.length, added.length);
        for (let k = 0; k < count; k++) this.#pairIfMoved(gone[k]!, added[k]!);
        continue;
      }
      const tried = gone.flatMap((object) =>
        added.flatMap((other) =>
          this.#isSameShape(object, other) && this.#mayHaveMoved(object, other)
            ? [{ object, other, cost: this.#apart(object, other) * (4 - this.#alike(object, other)) }]
            : [],
        ),
      );
      this.#pairCheapest(tried);
    }
  }

  /** Another shape in about the same place, on the same layer: the boxes that overlap most. */
  byLikeness(): void {
    const { before, after } = this;
    const open = (side: CompareSide, of: Int32Array): number[] => {
      const found: number[] = [];
      for (let object = 0; object < side.count; object++) if (of[object] === NONE) found.push(object);
      return found;
    };
    const gone = open(before, this.#ofBefore);
    const added = open(after, this.#ofAfter);
    if (gone.length === 0 || added.length === 0) return;
    const boxes = added.map((other) => boxOf(after, other));
    const sizes = boxes.map(sizeOf).sort((a, b) => a - b);
    const cell = Math.max(2 * sizes[sizes.length >> 1]!, this.tolerance * CELL_FACTOR);
    const grid = new Map<string, number[]>();
    const cellsOf = ({ min, max }: Box): string[] => {
      const cells: string[] = [];
      const [x0, x1] = [Math.floor(min[0]! / cell), Math.floor(max[0]! / cell)];
      const [y0, y1] = [Math.floor(min[1]! / cell), Math.floor(max[1]! / cell)];
      // what is much larger than others is looked for by its corners alone
      if ((x1 - x0 + 1) * (y1 - y0 + 1) > MOST_TRIED) return [`${x0} ${y0}`, `${x1} ${y1}`];
      for (let x = x0; x <= x1; x++) for (let y = y0; y <= y1; y++) cells.push(`${x} ${y}`);
      return cells;
    };
    boxes.forEach((box, k) => {
      for (const key of cellsOf(box)) {
        const known = grid.get(key);
        if (known) known.push(k);
        else grid.set(key, [k]);
      }
    });
    const tried: { object: number; other: number; cost: number }[] = [];
    for (const object of gone) {
      const box = boxOf(before, object);
      const near = new Set(cellsOf(box).flatMap((key) => grid.get(key) ?? []));
      for (const k of near) {
        const other = added[k]!;
        const isLike =
          before.kinds.at(object) === after.kinds.at(other) && before.layers.at(object) === after.layers.at(other);
        if (!isLike) continue;
        const shared = overlapOf(box, boxes[k]!, this.tolerance);
        if (shared >= LEAST_OVERLAP) tried.push({ object, other, cost: 1 - shared });
      }
    }
    this.#pairCheapest(tried);
  }

  #pairIfMoved(object: number, other: number): void {
    const areOpen = this.#ofBefore[object] === NONE && this.#ofAfter[other] === NONE;
    if (areOpen && this.#isSameShape(object, other) && this.#mayHaveMoved(object, other)) this.#pair(object, other);
  }

  #pairCheapest(tried: { readonly object: number; readonly other: number; readonly cost: number }[]): void {
    for (const { object, other } of tried.sort((a, b) => a.cost - b.cost || a.object - b.object || a.other - b.other))
      if (this.#ofBefore[object] === NONE && this.#ofAfter[other] === NONE) this.#pair(object, other);
  }

  #pair(object: number, other: number): void {
    this.#ofBefore[object] = other;
    this.#ofAfter[other] = object;
    const { before, after } = this;
    const isPlace = this.#isSamePlace(object, other);
    const isMoved = !isPlace && this.#isSameShape(object, other);
    const ways: ChangeWay[] = [
      ...(isMoved ? (['moved'] as const) : []),
      ...(!isPlace && !isMoved ? (['reshaped'] as const) : []),
      ...(before.styles.at(object) === after.styles.at(other) ? [] : (['restyled'] as const)),
      ...(before.labels.at(object) === after.labels.at(other) ? [] : (['label'] as const)),
      ...(before.layers.at(object) === after.layers.at(other) ? [] : (['layer'] as const)),
    ];
    if (ways.length === 0) return;
    const by = isMoved ? wayBetween(before, object, after, other) : undefined;
    this.#changed.push({ before: object, after: other, ways, ...(by ? { by } : {}) });
  }

  /** How many of layer, style and label are the same. */
  #alike(object: number, other: number): number {
    const { before, after } = this;
    return (
      Number(before.layers.at(object) === after.layers.at(other)) +
      Number(before.styles.at(object) === after.styles.at(other)) +
      Number(before.labels.at(object) === after.labels.at(other))
    );
  }

  #isSameMake(object: number, other: number): boolean {
    const { before, after } = this;
    return (
      before.kinds.at(object) === after.kinds.at(other) &&
      before.makes.at(object) === after.makes.at(other) &&
      before.endOf(object) - before.startOf(object) === after.endOf(other) - after.startOf(other)
    );
  }

  #isSamePlace(object: number, other: number): boolean {
    if (!this.#isSameMake(object, other)) return false;
    const [from, to] = [this.before.startOf(object), this.after.startOf(other)];
    for (let i = this.before.endOf(object) - from - 1; i >= 0; i--)
      if (Math.abs(this.before.coords.at(from + i) - this.after.coords.at(to + i)) > this.tolerance) return false;
    return true;
  }

  /** The same but for a way that all points have gone. */
  #isSameShape(object: number, other: number): boolean {
    if (!this.#isSameMake(object, other)) return false;
    const { before, after, tolerance } = this;
    const [from, to] = [before.startOf(object), after.startOf(other)];
    const count = before.endOf(object) - from;
    // of two rounded places each is off by as much
    for (let i = before.stride; i < count; i++) {
      const k = i % before.stride;
      const first = before.coords.at(from + i) - before.coords.at(from + k);
      const second = after.coords.at(to + i) - after.coords.at(to + k);
      if (Math.abs(first - second) > 2 * tolerance) return false;
    }
    return true;
  }

  /** A mere point tells nothing by its shape: it has moved only if its words are the same. */
  #mayHaveMoved(object: number, other: number): boolean {
    const { before, after } = this;
    const isPoint = before.endOf(object) - before.startOf(object) <= before.stride;
    return !isPoint || (before.labels.at(object) !== NONE && before.labels.at(object) === after.labels.at(other));
  }

  #apart(object: number, other: number): number {
    return Math.hypot(...wayBetween(this.before, object, this.after, other)) + this.tolerance;
  }
}

/** From an object's first point to that of another. */
function wayBetween(before: CompareSide, object: number, after: CompareSide, other: number): number[] {
  const [from, to] = [before.startOf(object), after.startOf(other)];
  return Array.from({ length: before.stride }, (_, k) => after.coords.at(to + k) - before.coords.at(from + k));
}

const makeHash = (side: CompareSide, object: number): number =>
  mix(mix(side.kinds.at(object), side.makes.at(object)), side.endOf(object) - side.startOf(object));

function placeHash(side: CompareSide, object: number, cell: number): number {
  let hash = makeHash(side, object);
  const start = side.startOf(object);
  if (side.endOf(object) === start) return hash;
  for (let k = 0; k < side.stride; k++) hash = mix(hash, Math.floor(side.coords.at(start + k) / cell) | 0);
  return hash;
}

/** The hashes of all cells in which the same first point may lie. */
function nearHashes(side: CompareSide, object: number, cell: number, tolerance: number): number[] {
  let hashes = [makeHash(side, object)];
  const start = side.startOf(object);
  if (side.endOf(object) === start) return hashes;
  for (let k = 0; k < side.stride; k++) {
    const value = side.coords.at(start + k);
    const cells = new Set([Math.floor((value - tolerance) / cell) | 0, Math.floor((value + tolerance) / cell) | 0]);
    hashes = hashes.flatMap((hash) => [...cells].map((one) => mix(hash, one)));
  }
  return hashes;
}

/**
 * Hashes of what an object and its moved self have in common: the way from its first point to its middle one, by cells of
 * a grid, or the label of a mere point.
 * @param tolerance by which that way may differ: all cells that it may lie in
 */
function shapeHashes(side: CompareSide, object: number, cell: number, tolerance: number): number[] {
  const [start, end] = [side.startOf(object), side.endOf(object)];
  let hashes = [makeHash(side, object)];
  const points = (end - start) / side.stride;
  if (points <= 1) return hashes.map((hash) => mix(hash, side.labels.at(object)));
  const middle = start + side.stride * Math.floor(points / 2);
  for (let k = 0; k < side.stride; k++) {
    const way = side.coords.at(middle + k) - side.coords.at(start + k);
    const cells = new Set([Math.floor((way - tolerance) / cell) | 0, Math.floor((way + tolerance) / cell) | 0]);
    hashes = hashes.flatMap((hash) => [...cells].map((one) => mix(hash, one)));
  }
  return hashes;
}

interface Box {
  readonly min: readonly number[];
  readonly max: readonly number[];
}

/** The box of an object's coordinates, drawing units. */
export function boxOf(side: CompareSide, object: number): Box {
  const min = Array.from({ length: side.stride }, () => Infinity);
  const max = Array.from({ length: side.stride }, () => -Infinity);
  const end = side.endOf(object);
  for (let i = side.startOf(object), k = 0; i < end; i++, k = (k + 1) % side.stride) {
    const value = side.coords.at(i);
    if (value < min[k]!) min[k] = value;
    if (value > max[k]!) max[k] = value;
  }
  return { min, max };
}

const sizeOf = ({ min, max }: Box): number => Math.hypot(...max.map((value, k) => value - min[k]!));

/** How much of two boxes is common to both, per axis and in all: 1 for the same box, 0 for boxes that are apart. */
function overlapOf(a: Box, b: Box, tolerance: number): number {
  let share = 1;
  a.min.forEach((_, k) => {
    const common = Math.min(a.max[k]!, b.max[k]!) - Math.max(a.min[k]!, b.min[k]!) + tolerance;
    const whole = Math.max(a.max[k]!, b.max[k]!) - Math.min(a.min[k]!, b.min[k]!) + tolerance;
    share *= Math.max(common, 0) / whole;
  });
  return share;
}
