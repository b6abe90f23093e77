import { flattenPath } from '../drawing/flatten.ts';
import type { FillRule, TextMark } from '../drawing/model.ts';
import { Op, coordsOfOp, type Path } from '../drawing/path.ts';
import { Growable, type Memory } from '../geometry/growable.ts';

export const ItemKind = { line: 0, fill: 1, text: 2 } as const;
export type ItemKindCode = (typeof ItemKind)[keyof typeof ItemKind];

/** A line with more chords than this is placed in pieces, so that no tile gets out of hand. */
export const MAX_CHORDS_PER_ITEM = 256;
/** An area of more triangles than this is placed in pieces, without the definition of its outline. */
export const MAX_TRIANGLES_PER_ITEM = 4096;
/** What drawing one text costs, in segments. */
const TEXT_WEIGHT = 4;
/** What drawing one curve costs where it is small, in segments. */
const CURVE_WEIGHT = 6;
const noCurves: Path = { ops: [], coords: [] };

const columnNames = [
  ...(['kind', 'style', 'object', 'weight', 'boxes', 'start', 'points', 'along', 'xy', 'chords'] as const),
  ...(['opsStart', 'opsCount', 'coordsStart', 'ops', 'coords'] as const),
] as const;
type ColumnName = (typeof columnNames)[number];

/** A table as plain data. */
export interface ItemColumns {
  readonly columns: Readonly<Record<ColumnName, Uint8Array | Uint32Array | Float32Array | Float64Array>>;
  readonly texts: readonly TextMark[];
  readonly evenOdd: ReadonlySet<number>;
}

/**
 * Everything that tiles are made of, as columns: polylines, triangle sets and texts in drawing units, each with its box,
 * style and object. An object with a fill and a stroke has several items, a long line too.
 */
export class ItemTable {
  readonly dimensions = 2;
  readonly kind: Growable<Uint8Array>;
  readonly style: Growable<Uint32Array>;
  readonly object: Growable<Uint32Array>;
  /** What drawing it costs: segments or triangles. */
  readonly weight: Growable<Uint32Array>;
  /** minX, minY, maxX, maxY of each item. */
  readonly boxes: Growable<Float64Array>;
  /** First number of the item in {@link xy}, of curves in {@link chords}; for texts the index in {@link texts}. */
  readonly start: Growable<Uint32Array>;
  /** How many points the item has there. */
  readonly points: Growable<Uint32Array>;
  /** Length along the element where the item begins, so that dashes go on over pieces. */
  readonly along: Growable<Float64Array>;
  readonly xy: Growable<Float64Array>;
  /** The polylines of curves, which are no more than near them, relative to the beginning of their definition. */
  readonly chords: Growable<Float32Array>;
  readonly texts: TextMark[];
  /** First step of the item's definition in {@link ops} and how many there are; none where it is a mere polyline. */
  readonly opsStart: Growable<Uint32Array>;
  readonly opsCount: Growable<Uint32Array>;
  readonly coordsStart: Growable<Uint32Array>;
  readonly ops: Growable<Uint8Array>;
  readonly coords: Growable<Float64Array>;
  /** Areas that are filled by the even-odd rule. */
  readonly #evenOdd: Set<number>;
  #scratch: Float64Array = new Float64Array(0);
  #xyView: Float64Array = new Float64Array(0);

  /** @param from an empty table's memory, or the columns of one that was filled elsewhere */
  constructor(from: Memory | ItemColumns = 'own') {
    const column = <T extends Uint8Array | Uint32Array | Float32Array | Float64Array>(
      name: ColumnName,
      empty: (memory: Memory) => Growable<T>,
    ): Growable<T> => (typeof from === 'string' ? empty(from) : Growable.of(from.columns[name] as T));
    const bytes = (name: ColumnName) => column(name, (memory) => new Growable(Uint8Array, memory));
    const counts = (name: ColumnName) => column(name, (memory) => new Growable(Uint32Array, memory));
    const doubles = (name: ColumnName) => column(name, (memory) => new Growable(Float64Array, memory));
    this.kind = bytes('kind');
    this.style = counts('style');
    this.object = counts('object');
    this.weight = counts('weight');
    this.boxes = doubles('boxes');
    this.start = counts('start');
    this.points = counts('points');
    this.along = doubles('along');
    this.xy = doubles('xy');
    this.chords = column('chords', (memory) => new Growable(Float32Array, memory));
    this.opsStart = counts('opsStart');
    this.opsCount = counts('opsCount');
    this.coordsStart = counts('coordsStart');
    this.ops = bytes('ops');
    this.coords = doubles('coords');
    [this.texts, this.#evenOdd] = typeof from === 'string' ? [[], new Set()] : [[...from.texts], new Set(from.evenOdd)];
  }

  /** All that the table holds, to be given to another thread; out of date after the next growth. */
  columns(): ItemColumns {
    const views = columnNames.map((name) => [name, this[name].view()] as const);
    return {
      columns: Object.fromEntries(views) as ItemColumns['columns'],
      texts: this.texts,
      evenOdd: this.#evenOdd,
    };
  }

  get length(): number {
    return this.kind.length;
  }

  /** @param xy x, y pairs of a polyline, at least two points */
  addLine(xy: ArrayLike<number>, style: number, object: number): void {
    const chords = (xy.length >> 1) - 1;
    let along = 0;
    if (chords > 0 && chords <= MAX_CHORDS_PER_ITEM) {
      this.#addPiece(xy, chords, noCurves, style, object, 0);
      return;
    }
    for (let from = 0; from < chords; from += MAX_CHORDS_PER_ITEM) {
      const to = Math.min(from + MAX_CHORDS_PER_ITEM, chords);
      const piece = Array.prototype.slice.call(xy, 2 * from, 2 * to + 2) as number[];
      along = this.#addPiece(piece, to - from, noCurves, style, object, along);
    }
  }

  /**
   * Adds the lines of a path. Runs with curves keep their definition beside the polyline, so that they can be drawn
   * smoothly at any scale; they are cut between steps, straight runs between any points.
   * @param onChord told of the points of curves' chords
   */
  addPath(path: Path, style: number, object: number, onChord?: (x: number, y: number) => void): void {
    if (isOneLine(path)) {
      this.addLine(path.coords, style, object);
      return;
    }
    for (const run of runsOf(path)) {
      const hasCurves = run.ops.some((op) => op !== Op.move && op !== Op.line);
      if (!hasCurves) {
        if (run.ops.length > 1) this.addLine(run.coords, style, object);
        continue;
      }
      const xy: number[] = [];
      const add = (x: number, y: number): void => {
        xy.push(x, y);
        onChord?.(x, y);
      };
      const sink = { move: add, line: add, close: () => undefined };
      let along = 0;
      for (const part of partsOf(run)) {
        xy.length = 0;
        flattenPath(part, sink);
        const weight = part.ops.reduce((sum, op) => sum + (op === Op.move ? 0 : op === Op.line ? 1 : CURVE_WEIGHT), 0);
        along = this.#addPiece(xy, weight, part, style, object, along);
      }
    }
  }

  /**
   * Adds an area, with the definition of its outline so that it can be filled exactly at any scale.
   * @param xy its triangles at a coarse scale: x, y pairs, three points a triangle
   */
  addFill(path: Path, rule: FillRule, xy: ArrayLike<number>, style: number, object: number): void {
    if (xy.length > 6 * MAX_TRIANGLES_PER_ITEM) {
      this.addTriangles(xy, style, object);
      return;
    }
    if (rule === 'evenodd') this.#evenOdd.add(this.length);
    this.#add(ItemKind.fill, style, object, xy.length / 6, xy, 0, path.ops.length);
    this.ops.append(path.ops);
    this.coords.append(path.coords);
  }

  /** @param xy x, y pairs, three points a triangle */
  addTriangles(xy: ArrayLike<number>, style: number, object: number): void {
    const step = 6 * MAX_CHORDS_PER_ITEM;
    for (let from = 0; from < xy.length; from += step) {
      const piece = Array.prototype.slice.call(xy, from, from + step) as number[];
      this.#add(ItemKind.fill, style, object, piece.length / 6, piece, 0, 0);
    }
  }

  addText(mark: TextMark, style: number, object: number): void {
    // the box of a text without its font: wide enough for any
    const reach = mark.size * Math.max(mark.text.length, 1);
    const box = [mark.x - reach, mark.y - reach, mark.x + reach, mark.y + reach];
    this.#columns(ItemKind.text, style, object, TEXT_WEIGHT, box, this.texts.length, 0, 0, 0);
    this.texts.push(mark);
  }

  /** Size that decides when an item becomes visible, drawing units: its longer side; of a text the height. */
  sizeOf(item: number): number {
    if (this.kind.at(item) === ItemKind.text) return this.texts[this.start.at(item)]!.size;
    return Math.max(
      this.boxes.at(4 * item + 2) - this.boxes.at(4 * item),
      this.boxes.at(4 * item + 3) - this.boxes.at(4 * item + 1),
    );
  }

  ruleOf(item: number): FillRule {
    return this.#evenOdd.has(item) ? 'evenodd' : 'nonzero';
  }

  /** The points of a line, or of an area's triangles; of curves they are good until this is asked again. */
  pointsOf(item: number): { readonly xy: Float64Array; readonly start: number } {
    const start = this.start.at(item);
    if (this.kind.at(item) !== ItemKind.line || this.opsCount.at(item) === 0) return { xy: this.#xy(), start };
    const count = 2 * this.points.at(item);
    if (this.#scratch.length < count) this.#scratch = new Float64Array(2 * count);
    const [x, y] = [this.coords.at(this.coordsStart.at(item)), this.coords.at(this.coordsStart.at(item) + 1)];
    for (let i = 0; i < count; i += 2) {
      this.#scratch[i] = x + this.chords.at(start + i);
      this.#scratch[i + 1] = y + this.chords.at(start + i + 1);
    }
    return { xy: this.#scratch, start: 0 };
  }

  /** A view of all is made anew only after the table has grown. */
  #xy(): Float64Array {
    if (this.#xyView.length !== this.xy.length) this.#xyView = this.xy.view();
    return this.#xyView;
  }

  /** The item's definition; empty where it is a mere polyline. */
  definitionOf(item: number): Path {
    const from = this.opsStart.at(item);
    const start = this.coordsStart.at(item);
    return {
      ops: this.ops.view().subarray(from, from + this.opsCount.at(item)),
      coords: this.coords.view().subarray(start, start + this.coordsCountOf(item)),
    };
  }

  /** How many numbers the item's definition has. */
  coordsCountOf(item: number): number {
    const next = item + 1 < this.length ? this.coordsStart.at(item + 1) : this.coords.length;
    return next - this.coordsStart.at(item);
  }

  /** @returns the length along the element at the piece's end */
  #addPiece(
    xy: ArrayLike<number>,
    weight: number,
    { ops, coords }: Path,
    style: number,
    object: number,
    along: number,
  ): number {
    this.#add(ItemKind.line, style, object, weight, xy, along, ops.length);
    this.ops.append(ops);
    this.coords.append(coords);
    let end = along;
    for (let i = 2; i < xy.length; i += 2) {
      const [dx, dy] = [xy[i]! - xy[i - 2]!, xy[i + 1]! - xy[i - 1]!];
      end += Math.sqrt(dx * dx + dy * dy);
    }
    return end;
  }

  #add(
    kind: ItemKindCode,
    style: number,
    object: number,
    weight: number,
    xy: ArrayLike<number>,
    along: number,
    steps: number,
  ): void {
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < xy.length; i += 2) {
      const x = xy[i]!;
      const y = xy[i + 1]!;
      if (x < minX) minX = x;
      if (y < minY) minY = y;
      if (x > maxX) maxX = x;
      if (y > maxY) maxY = y;
    }
    const box = [minX, minY, maxX, maxY];
    const points = xy.length >> 1;
    if (kind === ItemKind.line && steps > 0) {
      this.#columns(kind, style, object, weight, box, this.chords.length, points, along, steps);
      for (let i = 0; i < xy.length; i += 2) {
        this.chords.push(xy[i]! - xy[0]!);
        this.chords.push(xy[i + 1]! - xy[1]!);
      }
      return;
    }
    this.#columns(kind, style, object, weight, box, this.xy.length, points, along, steps);
    this.xy.append(xy);
  }

  #columns(
    kind: ItemKindCode,
    style: number,
    object: number,
    weight: number,
    box: readonly number[],
    start: number,
    points: number,
    along: number,
    steps: number,
  ): void {
    this.opsStart.push(this.ops.length);
    this.opsCount.push(steps);
    this.coordsStart.push(this.coords.length);
    this.kind.push(kind);
    this.style.push(style);
    this.object.push(object);
    this.weight.push(weight);
    this.boxes.append(box);
    this.start.push(start);
    this.points.push(points);
    this.along.push(along);
  }
}

/** Whether a path is a polyline without a second beginning or a close. */
function isOneLine({ ops }: Path): boolean {
  if (ops.length < 2 || ops[0] !== Op.move) return false;
  for (let i = 1; i < ops.length; i++) if (ops[i] !== Op.line) return false;
  return true;
}

interface Run {
  readonly ops: number[];
  readonly coords: number[];
}

/** The runs of a path, each beginning with a move; a close has become the line that it draws. */
function runsOf(path: Path): Run[] {
  const runs: Run[] = [];
  let run: Run = { ops: [], coords: [] };
  let at = 0;
  const begin = (x: number, y: number): void => {
    run = { ops: [Op.move], coords: [x, y] };
    runs.push(run);
  };
  for (let i = 0; i < path.ops.length; i++) {
    const op = path.ops[i]!;
    if (op === Op.move) {
      begin(path.coords[at]!, path.coords[at + 1]!);
    } else if (op === Op.close) {
      const [startX, startY] = [run.coords[0]!, run.coords[1]!];
      if (run.coords.at(-2) !== startX || run.coords.at(-1) !== startY) {
        run.ops.push(Op.line);
        run.coords.push(startX, startY);
      }
      begin(startX, startY); // what follows a close without a move begins there
    } else {
      run.ops.push(op);
      for (let k = 0; k < coordsOfOp[op]!; k++) run.coords.push(path.coords[at + k]!);
    }
    at += coordsOfOp[op]!;
  }
  return runs;
}

/** How many steps of a curved run go into one item. */
const STEPS_PER_ITEM = 24;

/** Cuts a run into items; each begins with a move to where the one before it ended. */
function* partsOf({ ops, coords }: Run): Generator<Run> {
  let at = 2;
  for (let from = 1; from < ops.length; from += STEPS_PER_ITEM) {
    const part = { ops: [Op.move as number], coords: [coords[at - 2]!, coords[at - 1]!] };
    for (let i = from; i < Math.min(from + STEPS_PER_ITEM, ops.length); i++) {
      const width = coordsOfOp[ops[i]!]!;
      part.ops.push(ops[i]!);
      for (let k = 0; k < width; k++) part.coords.push(coords[at + k]!);
      at += width;
    }
    yield part;
  }
}
