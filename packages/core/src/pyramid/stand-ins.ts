import { Growable } from '../geometry/growable.ts';
import type { Vec2 } from '../geometry/vec.ts';
import { ItemKind, type ItemTable } from './items.ts';

/** Lines of one style that stand for others of it. */
export interface StandInRun {
  readonly style: number;
  /** One of those that they stand for: their place in the order of painting. */
  readonly object: number;
  /** How many lines, one after the other. */
  readonly count: number;
}

/**
 * A few lines with the ink of many. Ink is length along the axis in which a line is longer: so many px a thin line
 * covers. They lie where the others lie, in their directions and styles, each {@link length} long.
 */
export interface StandIns {
  /** x0, y0, x1, y1 a line, drawing units. */
  readonly ends: Float64Array;
  readonly runs: readonly StandInRun[];
}

/**
 * Systematic sampling by length (W. G. Cochran, "Sampling Techniques", ch. 8): so much ink makes one line, laid where
 * half of it has passed. Lines that are added in an order that keeps neighbours together so get stand-ins that lie
 * evenly. A stand-in stays within the box of the lines it stands for: where there is no room in their direction it lies
 * along the box, and where that is small, too, shorter ones take its place.
 */
export class StandInSampler {
  readonly #ends = new Growable(Float64Array);
  readonly #runs: { style: number; object: number; count: number }[] = [];
  /** Ink since the last stand-in, its box, and what passed at half of it. */
  #ink = 0;
  #box = noBox();
  #middle: Middle | null = null;

  /** @param length ink of one line, drawing units, above 0 */
  constructor(private readonly length: number) {}

  /** Adds a line, best those of one style one after the other. Drawing units. */
  add(x0: number, y0: number, x1: number, y1: number, style: number, object: number): void {
    const ink = inkOfLine(x0, y0, x1, y1);
    if (ink === 0) return;
    const half = this.length / 2;
    if (this.#ink + ink < half || (this.#middle && this.#ink + ink < this.length)) {
      // most lines are short: they change nothing but the box
      extend(this.#box, x0, y0);
      extend(this.#box, x1, y1);
      this.#ink += ink;
      return;
    }
    const ux = (x1 - x0) / ink;
    const uy = (y1 - y0) / ink;
    let passed = 0;
    for (;;) {
      const step = Math.min(ink - passed, this.length - this.#ink);
      const toHalf = half - this.#ink;
      if (!this.#middle && toHalf <= step) {
        const at = passed + toHalf;
        this.#middle = { x: x0 + at * ux, y: y0 + at * uy, ux, uy, style, object };
      }
      extend(this.#box, x0 + passed * ux, y0 + passed * uy);
      passed += step;
      extend(this.#box, x0 + passed * ux, y0 + passed * uy);
      this.#ink += step;
      if (this.#ink < this.length) return;
      this.#lay();
    }
  }

  /** Lays what stands for all since the last, within the box of it. */
  #lay(): void {
    const [box, middle] = [this.#box, this.#middle!];
    const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
    const hasRoom =
      Math.abs(middle.ux) * this.length <= width * ALMOST && Math.abs(middle.uy) * this.length <= height * ALMOST;
    if (hasRoom) this.#layOne(middle, this.length, middle.ux, middle.uy);
    else this.#layRows(middle);
    this.#ink = 0;
    this.#box = noBox();
    this.#middle = null;
  }

  #layOne({ x, y, style, object }: Middle, length: number, ux: number, uy: number): void {
    const box = this.#box;
    const [alongX, alongY] = [(length / 2) * ux, (length / 2) * uy];
    const atX = within(x, box.minX + Math.abs(alongX), box.maxX - Math.abs(alongX));
    const atY = within(y, box.minY + Math.abs(alongY), box.maxY - Math.abs(alongY));
    this.#ends.append([atX - alongX, atY - alongY, atX + alongX, atY + alongY]);
    this.#count(style, object);
  }

  /** Along the longer side of the box: one line from corner to corner if that is long enough, else rows beside each other. */
  #layRows(middle: Middle): void {
    const box = this.#box;
    const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
    const longer = Math.max(width, height);
    if (longer * ALMOST >= this.length) {
      const [toRight, up] = [middle.ux < 0 ? -1 : 1, middle.uy < 0 ? -1 : 1];
      this.#layOne(middle, this.length, (toRight * width) / longer, (up * height) / longer);
      return;
    }
    const rows = Math.min(Math.ceil(this.length / longer / ALMOST), MOST_PIECES);
    const length = Math.min(this.length / rows, longer);
    const isWide = width >= height;
    for (let row = 0; row < rows; row++) {
      const share = (row + 0.5) / rows;
      const [x, y] = isWide ? [middle.x, box.minY + share * height] : [box.minX + share * width, middle.y];
      this.#layOne({ ...middle, x, y }, length, isWide ? 1 : 0, isWide ? 0 : 1);
    }
  }

  /** Takes a line as it is: it is itself one of few. */
  take(x0: number, y0: number, x1: number, y1: number, style: number, object: number): void {
    this.#ends.append([x0, y0, x1, y1]);
    this.#count(style, object);
  }

  #count(style: number, object: number): void {
    const run = this.#runs.at(-1);
    if (run?.style === style) run.count++;
    else this.#runs.push({ style, object, count: 1 });
  }

  build(): StandIns {
    if (this.#middle) this.#lay(); // what is left comes to more than half of one
    return { ends: this.#ends.view().slice(), runs: this.#runs };
  }
}

/** Where half of a stand-in's ink had passed: place, direction with its larger part 1, style, object. */
interface Middle {
  readonly x: number;
  readonly y: number;
  readonly ux: number;
  readonly uy: number;
  readonly style: number;
  readonly object: number;
}

/** Rounding may make a box shorter than the line that it is the box of. */
const ALMOST = 1 + 1e-9;
/** A stand-in whose lines lie close together is made of at most so many. */
const MOST_PIECES = 8;

interface GrowingBox {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}
const noBox = (): GrowingBox => ({ minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity });
function extend(box: GrowingBox, x: number, y: number): void {
  if (x < box.minX) box.minX = x;
  if (x > box.maxX) box.maxX = x;
  if (y < box.minY) box.minY = y;
  if (y > box.maxY) box.maxY = y;
}

/** @returns the middle of the two where they leave no room */
const within = (value: number, least: number, most: number): number =>
  least > most ? (least + most) / 2 : Math.min(Math.max(value, least), most);

/** Ink of a line, in the units of its coordinates: so many px a thin line covers where one of them is a px. */
export const inkOfLine = (x0: number, y0: number, x1: number, y1: number): number =>
  Math.max(Math.abs(x1 - x0), Math.abs(y1 - y0));

/** An area that stands for others of its style: where it lies and how large it is, drawing units. */
export interface FillInk {
  readonly x: number;
  readonly y: number;
  readonly area: number;
  readonly style: number;
  readonly object: number;
}

/** What a tile and all below it come to while they aren't drawn. */
export interface TileInk {
  readonly standIns: StandIns;
  /** Its areas, few: what the tiles above it make their stand-ins of. */
  readonly fills: readonly FillInk[];
}

/** Ink of one stand-in, in sizes of the largest thing that it stands for: long enough that few do. */
const SIZES_PER_STAND_IN = 4;
/** The length of stand-ins for things of up to a size, drawing units. */
export const standInLength = (size: number): number => SIZES_PER_STAND_IN * Math.max(size, Number.MIN_VALUE);

/** Stand-ins of one style of a tile's child, as places in its ends. */
interface BelowRun {
  readonly ends: Float64Array;
  readonly object: number;
  readonly from: number;
  readonly to: number;
}

/**
 * Stand-ins for a tile and all below it. An area becomes a line as long as it would be were it as high as the largest
 * thing: that is about a px where the tile is left out. Areas with an outline of their own have its ink.
 * @param order the tile's own items, those of one style one after the other, neighbours together
 * @param below the stand-ins of its children
 * @param largest size of the largest thing among all of them, drawing units
 */
export function standInsFor(
  table: ItemTable,
  order: readonly number[],
  below: readonly TileInk[],
  largest: number,
): TileInk {
  const sampler = new StandInSampler(standInLength(largest));
  const ofStyle = new Map<number, { readonly items: number[]; readonly below: BelowRun[] }>();
  const linesOf = (style: number): { readonly items: number[]; readonly below: BelowRun[] } => {
    let known = ofStyle.get(style);
    if (!known) ofStyle.set(style, (known = { items: [], below: [] }));
    return known;
  };
  for (const item of order) if (table.kind.at(item) === ItemKind.line) linesOf(table.style.at(item)).items.push(item);
  for (const { standIns } of below) {
    let first = 0;
    for (const { style, object, count } of standIns.runs) {
      linesOf(style).below.push({ ends: standIns.ends, object, from: 4 * first, to: 4 * (first + count) });
      first += count;
    }
  }
  for (const [style, lines] of ofStyle) {
    for (const item of lines.items) {
      const object = table.object.at(item);
      const { xy, start } = table.pointsOf(item);
      const end = start + 2 * table.points.at(item);
      for (let i = start + 2; i < end; i += 2) sampler.add(xy[i - 2]!, xy[i - 1]!, xy[i]!, xy[i + 1]!, style, object);
    }
    for (const { ends, object, from, to } of lines.below)
      for (let i = from; i < to; i += 4) sampler.add(ends[i]!, ends[i + 1]!, ends[i + 2]!, ends[i + 3]!, style, object);
  }
  const fills = fewFills([...ownFills(table, order), ...below.flatMap((ink) => ink.fills)]);
  for (const { x, y, area, style, object } of fills) {
    // rows, one above the other, so that none is longer than other stand-ins are
    const size = Math.max(largest, Number.MIN_VALUE);
    const rows = Math.min(Math.max(Math.ceil(area / size / standInLength(size)), 1), MOST_ROWS);
    const half = Math.min(area / size / rows, standInLength(size)) / 2;
    for (let row = 0; row < rows; row++) {
      const at = y + (row - (rows - 1) / 2) * size;
      sampler.take(x - half, at, x + half, at, style, object);
    }
  }
  return { standIns: sampler.build(), fills };
}

/** The areas among a tile's items that no outline shows. */
function ownFills(table: ItemTable, order: readonly number[]): FillInk[] {
  const outlined = new Set(
    order.filter((item) => table.kind.at(item) === ItemKind.line).map((i) => table.object.at(i)),
  );
  return order
    .filter((item) => table.kind.at(item) === ItemKind.fill && !outlined.has(table.object.at(item)))
    .map((item) => {
      const { xy, start } = table.pointsOf(item);
      let area = 0;
      for (let at = start; at < start + 2 * table.points.at(item); at += 6) {
        const [ax, ay] = [xy[at + 2]! - xy[at]!, xy[at + 3]! - xy[at + 1]!];
        const [bx, by] = [xy[at + 4]! - xy[at]!, xy[at + 5]! - xy[at + 1]!];
        area += Math.abs(ax * by - ay * bx) / 2;
      }
      const middle = (axis: 0 | 1): number =>
        (table.boxes.at(4 * item + axis) + table.boxes.at(4 * item + axis + 2)) / 2;
      return { x: middle(0), y: middle(1), area, style: table.style.at(item), object: table.object.at(item) };
    });
}

/** More areas than this are told by so many of them. */
const MAX_FILLS = 96;
/** An area that stands for many others is drawn in at most so many rows. */
const MOST_ROWS = 8;

/** Few areas with the area of all: systematic sampling, those of one style one after the other. */
function fewFills(fills: readonly FillInk[]): FillInk[] {
  const sorted = [...fills].sort((a, b) => a.style - b.style);
  if (fills.length <= MAX_FILLS) return sorted;
  const portion = fills.reduce((sum, { area }) => sum + area, 0) / MAX_FILLS;
  const kept: FillInk[] = [];
  let owed = portion / 2;
  for (const fill of sorted) {
    owed -= fill.area;
    for (; owed <= 0 && portion > 0; owed += portion) kept.push({ ...fill, area: portion });
  }
  return kept;
}

/** How stand-ins of a tile's children stand in the tile's file: ends on a grid, and for each child its runs. */
export interface StandInJson {
  /** Drawing units. */
  readonly step: number;
  /** Style, object, count. */
  readonly children: readonly (readonly [number, number, number])[][];
}

/** Steps of the grid to the tile's longer side: ends may lie outside it by as much on either side. */
const STEPS = 2 ** 14;

/** @param longer the tile's longer side, drawing units */
export function encodeStandIns(
  children: readonly StandIns[],
  origin: Vec2,
  longer: number,
): { readonly json: StandInJson; readonly ends: Int16Array } {
  const step = longer / STEPS;
  const lines = children.reduce((sum, { ends }) => sum + ends.length, 0);
  const ends = new Int16Array(lines);
  let at = 0;
  for (const child of children) {
    child.ends.forEach((value, index) => {
      const onGrid = Math.round((value - (index % 2 === 0 ? origin.x : origin.y)) / step);
      ends[at++] = Math.min(Math.max(onGrid, -0x8000), 0x7fff);
    });
  }
  return {
    json: {
      step,
      children: children.map(({ runs }) => runs.map(({ style, object, count }) => [style, object, count])),
    },
    ends,
  };
}

/** @returns the stand-ins of each child, relative to the tile's origin */
export function decodeStandIns({ step, children }: StandInJson, ends: Int16Array): StandIns[] {
  let at = 0;
  return children.map((rows) => {
    const runs = rows.map(([style, object, count]) => ({ style, object, count }));
    const numbers = 4 * runs.reduce((sum, { count }) => sum + count, 0);
    const own = Float64Array.from(ends.subarray(at, at + numbers), (value) => value * step);
    at += numbers;
    return { ends: own, runs };
  });
}
