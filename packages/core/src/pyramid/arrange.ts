import type { Box2 } from '../geometry/clip.ts';
import { Growable } from '../geometry/growable.ts';
import { zOrder } from '../spatial/z-order.ts';
import { simplify } from './simplify.ts';
import { StandInSampler, standInLength, type StandIns } from './stand-ins.ts';
import type { StyleRun } from './tile-format.ts';

/** A stretch of a tile's line indices: one style, one class of size, short enough to lie together. */
export interface LinePiece extends StyleRun, Box2 {
  /** No thing in it is larger than this, drawing units. */
  readonly sizeUpTo: number;
  /** The same with coarser chords, for when its things are seen no larger than {@link COARSE_UP_TO_PX} says, likewise. */
  readonly coarse: readonly IndexRange[];
}

/** A stretch of indices. */
export interface IndexRange {
  readonly start: number;
  readonly count: number;
}

/** A stretch of the lines that stand for others. */
export interface StandInPiece extends StyleRun {
  /** They stand for the tile's own things of this class of size; 0 if for a child. */
  readonly sizeUpTo: number;
  /** They stand for this child of the tile and all below it; −1 if for the tile's own things. */
  readonly child: number;
}

/** Lines for the ink of what isn't drawn; two vertices a line, one after the other. */
export interface StandInLines {
  /** x, y, z a vertex, relative to the tile's origin. */
  readonly positions: Float32Array<ArrayBuffer>;
  readonly styles: Uint16Array<ArrayBuffer>;
  /** Object of each vertex: the place in the order of painting. */
  readonly objects: Uint32Array<ArrayBuffer>;
  readonly pieces: readonly StandInPiece[];
}

/** Lines as they come from a file: items one after the other, those of one style together. */
export interface TileLines {
  readonly positions: Float32Array;
  readonly lines: Uint32Array;
  readonly lineRuns: readonly StyleRun[];
  /** Pairs of first vertex and object, rising. */
  readonly objects: Uint32Array;
}

export interface ArrangedLines {
  /** The indices in their new order, then those of coarser chords. */
  readonly lines: Uint32Array<ArrayBuffer>;
  readonly pieces: readonly LinePiece[];
}

/** Classes of size differ by this factor: so much too much is drawn at most. */
const CLASS_RATIO = Math.SQRT2;
/** Indices of a piece: few enough to lie together, so many that there are few pieces. */
const INDICES_PER_PIECE = 48;

/** Chords are made coarser for things that are seen no larger than this, px; the smallest first. */
export const COARSE_UP_TO_PX = [2, 8, 32] as const;
/** How far they may be from the finer ones there, px. */
const COARSE_ERROR_PX = 0.3;
/** Coarser chords that are more than this share of the finer ones aren't worth their memory. */
const WORTHWHILE = 0.85;

/** One item's stretch of the indices. */
interface Stretch extends Box2, StyleRun {
  /** Number of its class: the smaller, the larger the things. */
  readonly sizeClass: number;
  readonly object: number;
}

/** What of a piece is drawn where its things are seen so large. @param px what `sizeUpTo` comes to */
export function chordsFor({ start, count, coarse }: LinePiece, px: number): IndexRange {
  const level = COARSE_UP_TO_PX.findIndex((most) => px <= most);
  return coarse[level] ?? { start, count };
}

/**
 * Puts the lines of a tile in order of size, largest first, so that what is too small to be seen at a scale can be left
 * out; within a class by style, then so that neighbours stay together, so that what lies outside a view can be left out.
 */
export function arrangeBySize(content: TileLines): ArrangedLines {
  const byClass = stretchesByClass(content);
  const lines = new Growable(Uint32Array);
  const pieces: Mutable<LinePiece>[] = [];
  for (const [sizeClass, inFileOrder] of byClass) {
    const sizeUpTo = upperSize(sizeClass);
    const stretches = inFileOrder.length > 1 ? neighboursTogether(inFileOrder) : inFileOrder;
    let piece: Mutable<LinePiece> | undefined;
    for (const { style, start, count, minX, minY, maxX, maxY } of stretches) {
      if (piece === undefined || piece.style !== style || piece.count + count > INDICES_PER_PIECE) {
        piece = { style, start: lines.length, count: 0, sizeUpTo, coarse: [], minX, minY, maxX, maxY };
        pieces.push(piece);
      }
      piece.count += count;
      piece.minX = Math.min(piece.minX, minX);
      piece.minY = Math.min(piece.minY, minY);
      piece.maxX = Math.max(piece.maxX, maxX);
      piece.maxY = Math.max(piece.maxY, maxY);
      lines.append(content.lines.subarray(start, start + count));
    }
  }
  addCoarseChords(content.positions, lines, pieces);
  return { lines: lines.view().slice(), pieces };
}

/** Adds coarser chords of each piece, level by level so that those of neighbours lie together, the finest first. */
function addCoarseChords(positions: Float32Array, lines: Growable<Uint32Array>, pieces: Mutable<LinePiece>[]): void {
  const finest = pieces.map(({ start, count }): IndexRange[] => [{ start, count }]);
  for (const px of COARSE_UP_TO_PX.toReversed())
    pieces.forEach((piece, index) => {
      const finer = finest[index]![0]!;
      const start = lines.length;
      const tolerance = (COARSE_ERROR_PX * piece.sizeUpTo) / px;
      if (isChained(lines, piece)) appendCoarser(positions, lines, piece, tolerance);
      const count = lines.length - start;
      const isWorthIt = count > 0 && count <= WORTHWHILE * finer.count;
      if (!isWorthIt) lines.length = start;
      finest[index]!.unshift(isWorthIt ? { start, count } : finer);
    });
  pieces.forEach((piece, index) => {
    if (finest[index]![0]!.count < piece.count) piece.coarse = finest[index]!.slice(0, COARSE_UP_TO_PX.length);
  });
}

/** Whether any of its segments goes on from the one before. */
function isChained(lines: Growable<Uint32Array>, { start, count }: IndexRange): boolean {
  for (let i = start + 2; i < start + count; i += 2) if (lines.at(i) === lines.at(i - 1)) return true;
  return false;
}

/** Appends the segments of a piece, those that follow one another as fewer where that is as good. */
function appendCoarser(
  positions: Float32Array,
  lines: Growable<Uint32Array>,
  { start, count }: IndexRange,
  tolerance: number,
): void {
  const vertices: number[] = [];
  const xy: number[] = [];
  const take = (vertex: number): void => {
    vertices.push(vertex);
    xy.push(positions[3 * vertex]!, positions[3 * vertex + 1]!);
  };
  for (let i = start; i < start + count;) {
    vertices.length = xy.length = 0;
    take(lines.at(i));
    do take(lines.at(i + 1));
    while ((i += 2) < start + count && lines.at(i) === vertices.at(-1));
    const kept = simplify(xy, 0, vertices.length, tolerance);
    for (let k = 1; k < kept.length; k++) lines.append([vertices[kept[k - 1]!]!, vertices[kept[k]!]!]);
  }
}

/**
 * Lines for the ink of a tile's own things, class by class, and of its children.
 * @param ofChildren as the file has them
 */
export function standInLines(content: TileLines, ofChildren: readonly StandIns[]): StandInLines {
  const positions = new Growable(Float32Array);
  const styles = new Growable(Uint16Array);
  const objects = new Growable(Uint32Array);
  const pieces: StandInPiece[] = [];
  const take = ({ ends, runs }: StandIns, sizeUpTo: number, child: number): void => {
    let line = 0;
    for (const { style, object, count } of runs) {
      pieces.push({ style, start: styles.length, count: 2 * count, sizeUpTo, child });
      for (const last = line + count; line < last; line++) {
        positions.append([ends[4 * line]!, ends[4 * line + 1]!, 0, ends[4 * line + 2]!, ends[4 * line + 3]!, 0]);
        styles.append([style, style]);
        objects.append([object, object]);
      }
    }
  };
  const { positions: xyz, lines } = content;
  for (const [sizeClass, stretches] of stretchesByClass(content)) {
    const sizeUpTo = upperSize(sizeClass);
    const sampler = new StandInSampler(standInLength(sizeUpTo));
    for (const { style, object, start, count } of stretches) {
      for (let i = start; i < start + count; i += 2) {
        const [a, b] = [3 * lines[i]!, 3 * lines[i + 1]!];
        sampler.add(xyz[a]!, xyz[a + 1]!, xyz[b]!, xyz[b + 1]!, style, object);
      }
    }
    take(sampler.build(), sizeUpTo, -1);
  }
  ofChildren.forEach((standIns, child) => take(standIns, 0, child));
  return {
    positions: positions.view().slice(),
    styles: styles.view().slice(),
    objects: objects.view().slice(),
    pieces,
  };
}

/** By style, then along a curve that fills the box of them all. */
function neighboursTogether(stretches: readonly Stretch[]): Stretch[] {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const stretch of stretches) {
    minX = Math.min(minX, stretch.minX);
    minY = Math.min(minY, stretch.minY);
    maxX = Math.max(maxX, stretch.maxX);
    maxY = Math.max(maxY, stretch.maxY);
  }
  const size = Math.max(maxX - minX, maxY - minY) || 1;
  const keyed = stretches.map((stretch) => {
    const [x, y] = [(stretch.minX + stretch.maxX) / 2, (stretch.minY + stretch.maxY) / 2];
    return { stretch, key: zOrder((x - minX) / size, (y - minY) / size) };
  });
  keyed.sort((a, b) => a.stretch.style - b.stretch.style || a.key - b.key);
  return keyed.map(({ stretch }) => stretch);
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

const classOf = (size: number): number => (size > 0 ? -Math.floor(Math.log(size) / Math.log(CLASS_RATIO)) : Infinity);
const upperSize = (sizeClass: number): number => (sizeClass === Infinity ? 0 : CLASS_RATIO ** (1 - sizeClass));

/** The items' stretches, largest class first, within one in the order of the file. */
function stretchesByClass({ positions, lines, lineRuns, objects }: TileLines): [number, Stretch[]][] {
  const byClass = new Map<number, Stretch[]>();
  let item = 0;
  for (const { style, start, count } of lineRuns) {
    for (let from = start; from < start + count;) {
      while (item + 2 < objects.length && objects[item + 2]! <= lines[from]!) item += 2;
      const nextItem = objects[item + 2] ?? Infinity;
      let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
      let to = from;
      for (; to < start + count && lines[to]! < nextItem; to++) {
        const vertex = lines[to]!;
        const x = positions[3 * vertex]!;
        const y = positions[3 * vertex + 1]!;
        if (x < minX) minX = x;
        if (x > maxX) maxX = x;
        if (y < minY) minY = y;
        if (y > maxY) maxY = y;
      }
      const sizeClass = classOf(Math.max(maxX - minX, maxY - minY));
      const object = objects[item + 1] ?? 0;
      const stretch = { style, start: from, count: to - from, minX, minY, maxX, maxY, sizeClass, object };
      const known = byClass.get(sizeClass);
      if (known) known.push(stretch);
      else byClass.set(sizeClass, [stretch]);
      from = to;
    }
  }
  return [...byClass].sort(([a], [b]) => a - b);
}
