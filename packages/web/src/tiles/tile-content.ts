import { arrangeBySize, standInLines, type LinePiece, type StandInLines } from '@gull-pane/core/pyramid/arrange';
import type { RefinedLines } from '@gull-pane/core/pyramid/detail';
import type { DecodedTile } from '@gull-pane/core/pyramid/tile-format';

/** A tile as it is drawn: its lines in order of size, and lines for the ink of what is left out. */
export interface TileContent extends Omit<DecodedTile, 'lineRuns' | 'standIns'> {
  readonly lineRuns: readonly LinePiece[];
  readonly standIns: StandInLines;
}

/** The exact form of a tile's lines, in order of size. */
export interface FineContent extends Omit<RefinedLines, 'lineRuns'> {
  readonly lineRuns: readonly LinePiece[];
}

export function arrangeTile(tile: DecodedTile): TileContent {
  const { lines, pieces } = arrangeBySize(tile);
  return { ...tile, lines, lineRuns: pieces, standIns: standInLines(tile, tile.standIns) };
}

export function arrangeFine(refined: RefinedLines): FineContent {
  const { lines, pieces } = arrangeBySize(refined);
  return { ...refined, lines, lineRuns: pieces };
}

/** The memory of all columns of an object. */
export const numbersOf = (columns: object): ArrayBuffer[] =>
  Object.values(columns).flatMap((column: unknown) =>
    ArrayBuffer.isView(column) && column.buffer instanceof ArrayBuffer ? [column.buffer] : [],
  );

/** The memory of its numbers. */
export const buffersOf = (content: TileContent): ArrayBuffer[] => [
  ...numbersOf(content),
  ...numbersOf(content.standIns),
];
