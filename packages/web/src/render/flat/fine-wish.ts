import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Fine } from '../../tiles/refiner';
import type { TileEntry } from '@gull-pane/protocol/read-tileset';
import type { TilePart } from '../../tiles/tile-worker';
import type { PaneView } from '../picture/pane-view';

/** A curve at rest keeps to its course within so much, device px. */
export const MAX_CHORD_ERROR_PX = 0.3;
/** Ordered finer than needed by this, so that the next notch needs no new order. */
const RESERVE = 2;
/** Lines so many times finer than needed are given up for coarser ones. */
const TOO_FINE = 64;
/** A tile larger than this many times the view is refined only near it. */
const REGION_TIMES_VIEW = 8;

export interface FineWish {
  readonly chordError: number;
  readonly region: Box2 | null;
}

/**
 * What finer form of a tile's lines or areas a view needs.
 * @param fine the exact form that is loaded
 * @returns null if the tile is good as it is
 */
export function fineWish(
  tile: TileEntry,
  part: TilePart,
  fine: Fine<unknown> | null,
  view: PaneView,
  pixelRatio: number,
): FineWish | null {
  const { camera, viewport } = view;
  const needed = (MAX_CHORD_ERROR_PX * camera.unitsPerPx) / pixelRatio;
  const [address, tolerance] = exactForm(tile, part);
  if (address === '' || tolerance <= needed) return null;
  const reach = (Math.hypot(viewport.widthPx, viewport.heightPx) / 2) * camera.unitsPerPx;
  const x = camera.target.x - tile.origin.x;
  const y = camera.target.y - tile.origin.y;
  const isFine = fine !== null && fine.chordError <= needed && fine.chordError * TOO_FINE >= needed;
  if (isFine && contains(fine.region, x, y, reach)) return null;
  const isLarge = Math.max(tile.halfSize.x, tile.halfSize.y) > REGION_TIMES_VIEW * reach;
  const wide = 3 * reach;
  return {
    chordError: needed / RESERVE,
    region: isLarge ? { minX: x - wide, minY: y - wide, maxX: x + wide, maxY: y + wide } : null,
  };
}

/** Where the exact form of a part of a tile is, and how far its coarse form may be from it, drawing units. */
export const exactForm = (tile: TileEntry, part: TilePart): readonly [address: string, tolerance: number] =>
  part === 'lines' ? [tile.detail, tile.tolerance] : [tile.fills, tile.fillTolerance];

const contains = (region: Box2 | null, x: number, y: number, reach: number): boolean =>
  region === null ||
  (x - reach >= region.minX && x + reach <= region.maxX && y - reach >= region.minY && y + reach <= region.maxY);
