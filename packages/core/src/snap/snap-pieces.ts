import { flattenPath, within } from '../drawing/flatten.ts';
import { Op, coordsOfOp, type Path } from '../drawing/path.ts';
import type { Box2 } from '../geometry/clip.ts';
import type { Vec2 } from '../geometry/vec.ts';

/** One line or curve of an element, as far as snapping looks at it. */
export interface SnapPiece {
  readonly start: Vec2;
  readonly end: Vec2;
  readonly middle: Vec2;
  /** Chords that come near the place, x0, y0, x1, y1 each; for a straight piece the piece itself. */
  readonly chords: readonly number[];
}

/** Chords of curves keep to them within this share of the search radius. */
const CHORD_SHARE = 1e-4;

/**
 * The pieces of a path that come near a place.
 * @param at in the path's own coordinates
 * @param radius drawing units
 */
export function piecesNear(path: Path, at: Vec2, radius: number): SnapPiece[] {
  const region: Box2 = { minX: at.x - radius, minY: at.y - radius, maxX: at.x + radius, maxY: at.y + radius };
  const pieces: SnapPiece[] = [];
  const { ops, coords } = path;
  let [x, y, startX, startY] = [0, 0, 0, 0];
  let coord = 0;
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    const width = coordsOfOp[op]!;
    const isClose = op === Op.close;
    const endX = isClose ? startX : coords[coord + width - 2]!;
    const endY = isClose ? startY : coords[coord + width - 1]!;
    if (op === Op.move) [startX, startY] = [endX, endY];
    else if (op === Op.line || isClose) {
      const chord = [x, y, endX, endY];
      const middle = { x: (x + endX) / 2, y: (y + endY) / 2 };
      if ((x !== endX || y !== endY) && isNear(chord, 0, region))
        pieces.push({ start: { x, y }, end: { x: endX, y: endY }, middle, chords: chord });
    } else {
      const own = Array.from({ length: width }, (_, k) => coords[coord + k]!);
      const curve: Path = { ops: [Op.move, op], coords: [x, y, ...own] };
      const piece = curvePiece(curve, region, radius);
      if (piece) pieces.push(piece);
    }
    [x, y] = [endX, endY];
    coord += width;
  }
  return pieces;
}

function curvePiece(curve: Path, region: Box2, radius: number): SnapPiece | null {
  const all = chordsOf(curve, within(CHORD_SHARE * radius, region));
  const near: number[] = [];
  for (let i = 0; i < all.length; i += 4) if (isNear(all, i, region)) near.push(...all.slice(i, i + 4));
  const middle = middleOf(curve);
  const start = { x: all[0]!, y: all[1]! };
  const end = { x: all.at(-2)!, y: all.at(-1)! };
  const isWanted = near.length > 0 || [start, end, middle].some((place) => holds(region, place));
  return isWanted ? { start, end, middle, chords: near } : null;
}

/** Half-way along a curve by length. */
function middleOf(curve: Path): Vec2 {
  const chords = chordsOf(curve, { chordError: (size) => 1e-7 * size });
  const lengths: number[] = [];
  for (let i = 0; i < chords.length; i += 4)
    lengths.push(Math.hypot(chords[i + 2]! - chords[i]!, chords[i + 3]! - chords[i + 1]!));
  let left = lengths.reduce((sum, length) => sum + length, 0) / 2;
  for (let i = 0; i < lengths.length; i++) {
    const length = lengths[i]!;
    if (left <= length && length > 0) {
      const share = left / length;
      const at = 4 * i;
      return {
        x: chords[at]! + (chords[at + 2]! - chords[at]!) * share,
        y: chords[at + 1]! + (chords[at + 3]! - chords[at + 1]!) * share,
      };
    }
    left -= length;
  }
  return { x: chords[0]!, y: chords[1]! };
}

function chordsOf(curve: Path, closeness: Parameters<typeof flattenPath>[2]): number[] {
  const chords: number[] = [];
  let [lastX, lastY] = [0, 0];
  const keep = (x: number, y: number): void => {
    [lastX, lastY] = [x, y];
  };
  const line = (x: number, y: number): void => {
    chords.push(lastX, lastY, x, y);
    keep(x, y);
  };
  flattenPath(curve, { move: keep, line, close: () => undefined }, closeness);
  return chords;
}

const holds = ({ minX, minY, maxX, maxY }: Box2, { x, y }: Vec2): boolean =>
  x >= minX && x <= maxX && y >= minY && y <= maxY;

function isNear(chords: readonly number[], at: number, box: Box2): boolean {
  const [x0, y0, x1, y1] = [chords[at]!, chords[at + 1]!, chords[at + 2]!, chords[at + 3]!];
  if (Math.max(x0, x1) < box.minX || Math.min(x0, x1) > box.maxX) return false;
  if (Math.max(y0, y1) < box.minY || Math.min(y0, y1) > box.maxY) return false;
  // the box lies on one side of a line that misses it
  const side = (x: number, y: number): number => (x1 - x0) * (y - y0) - (y1 - y0) * (x - x0);
  const sides = [
    side(box.minX, box.minY),
    side(box.maxX, box.minY),
    side(box.minX, box.maxY),
    side(box.maxX, box.maxY),
  ];
  return Math.min(...sides) <= 0 && Math.max(...sides) >= 0;
}
