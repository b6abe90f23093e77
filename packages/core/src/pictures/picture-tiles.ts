import { screenToWorld, type Camera, type Viewport } from '../camera/camera.ts';
import { applyX, applyY, compose, type Affine } from '../geometry/affine.ts';
import type { Box2 } from '../geometry/clip.ts';

/** Side of a tile of a picture without the px that it shares with its neighbours. */
export const PICTURE_TILE_PX = 510;
/** Px that neighbours share at each side, so that they join without a seam where they are enlarged. */
export const PICTURE_OVERLAP_PX = 1;

/** A raster picture where it lies in a drawing, with its pyramid: each level is half as wide as the next, the last is whole. */
export interface PlacedPicture {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly levels: number;
  /** From the unit square, with its origin at the picture's upper left corner and y down, to drawing units. */
  readonly place: Affine;
  /** What of it may be seen, drawing units; all if null. */
  readonly clip: Box2 | null;
}

/** A tile of a picture's pyramid. */
export interface PictureTile {
  /** From 0, the smallest form of the whole. */
  readonly level: number;
  readonly column: number;
  readonly row: number;
}

/** How many levels a pyramid has: as many as it takes until the smallest is one tile. */
export function pictureLevels(widthPx: number, heightPx: number): number {
  const tiles = Math.max(widthPx, heightPx) / PICTURE_TILE_PX;
  return 1 + Math.max(Math.ceil(Math.log2(tiles)), 0);
}

/** Px of the whole picture to one of a level. */
export const pxPerLevelPx = ({ levels }: PlacedPicture, level: number): number => 2 ** (levels - 1 - level);

/** The box of what may be seen of a picture, drawing units. */
export function pictureBox({ place, clip }: Pick<PlacedPicture, 'place' | 'clip'>): Box2 {
  const corners = [0, 1, 2, 3].map((k) => [k & 1, k >> 1] as const);
  const xs = corners.map(([u, v]) => applyX(place, u, v));
  const ys = corners.map(([u, v]) => applyY(place, u, v));
  const box = { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
  if (!clip) return box;
  return {
    minX: Math.max(box.minX, clip.minX),
    minY: Math.max(box.minY, clip.minY),
    maxX: Math.min(box.maxX, clip.maxX),
    maxY: Math.min(box.maxY, clip.maxY),
  };
}

/** @returns null if the map flattens everything */
function inverse({ a, b, c, d, e, f }: Affine): Affine | null {
  const det = a * d - b * c;
  if (!(Math.abs(det) > 0) || !Number.isFinite(1 / det)) return null;
  const own = { a: d / det, b: -b / det, c: -c / det, d: a / det, e: 0, f: 0 };
  return { ...own, e: -applyX(own, e, f), f: -applyY(own, e, f) };
}

/** Pictures that would be smaller than this aren't drawn, px. */
const SMALLEST_PX = 0.5;
/** So many tiles of a picture are drawn at most: a coarser level is taken where there would be more. */
const MOST_TILES = 256;

/**
 * The tiles of a picture that a view of a plan shows, of the coarsest level that loses nothing on the screen.
 * @param pixelRatio device px to a CSS px
 */
export function pictureTilesIn(
  picture: PlacedPicture,
  camera: Camera,
  viewport: Viewport,
  pixelRatio: number,
): readonly PictureTile[] {
  const { place, widthPx, heightPx, levels } = picture;
  const back = inverse(place);
  const box = pictureBox(picture);
  if (!back || box.minX >= box.maxX || box.minY >= box.maxY) return [];
  const isDust = Math.max(box.maxX - box.minX, box.maxY - box.minY) * pixelRatio < SMALLEST_PX * camera.unitsPerPx;
  if (isDust) return [];
  // the part of the picture in sight, as shares of its sides
  const [us, vs]: [number[], number[]] = [[], []];
  for (const [x, y] of [
    [0, 0],
    [viewport.widthPx, 0],
    [0, viewport.heightPx],
    [viewport.widthPx, viewport.heightPx],
  ] as const) {
    const at = screenToWorld(camera, viewport, { x, y });
    us.push(applyX(back, at.x, at.y));
    vs.push(applyY(back, at.x, at.y));
  }
  const [u0, u1] = [Math.max(Math.min(...us), 0), Math.min(Math.max(...us), 1)];
  const [v0, v1] = [Math.max(Math.min(...vs), 0), Math.min(Math.max(...vs), 1)];
  if (!(u0 < u1 && v0 < v1)) return [];
  const unitsPerPx = camera.unitsPerPx / pixelRatio;
  // the finer of both directions decides
  const perPx = Math.min(Math.hypot(place.a, place.b) / widthPx, Math.hypot(place.c, place.d) / heightPx);
  const coarser = Math.floor(Math.log2(unitsPerPx / perPx));
  for (let level = Math.min(Math.max(levels - 1 - coarser, 0), levels - 1); level >= 0; level--) {
    const side = PICTURE_TILE_PX * pxPerLevelPx(picture, level);
    const [left, right] = [Math.floor((u0 * widthPx) / side), Math.ceil((u1 * widthPx) / side)];
    const [top, bottom] = [Math.floor((v0 * heightPx) / side), Math.ceil((v1 * heightPx) / side)];
    if ((right - left) * (bottom - top) > MOST_TILES && level > 0) continue;
    const tiles: PictureTile[] = [];
    for (let row = top; row < bottom; row++)
      for (let column = left; column < right; column++) tiles.push({ level, column, row });
    return tiles;
  }
  return [];
}

/** The tile of the next coarser level that shows the same part; null if there is none. */
export const pictureParent = ({ level, column, row }: PictureTile): PictureTile | null =>
  level > 0 ? { level: level - 1, column: column >> 1, row: row >> 1 } : null;

/** Where a tile lies, and which part of another tile's image is seen there. */
export interface TileOnPicture {
  /** From the unit square to drawing units. */
  readonly place: Affine;
  /** Shares of the image's width and height: left, top, right, bottom. */
  readonly part: readonly [number, number, number, number];
}

/**
 * @param tile to be drawn
 * @param held whose image is drawn there: the tile itself, or one above it
 * @param image size of that image, px
 */
export function tileOnPicture(
  picture: PlacedPicture,
  tile: PictureTile,
  held: PictureTile,
  image: { readonly width: number; readonly height: number },
): TileOnPicture {
  const { widthPx, heightPx, place } = picture;
  const side = PICTURE_TILE_PX * pxPerLevelPx(picture, tile.level);
  const [x0, y0] = [tile.column * side, tile.row * side];
  const [x1, y1] = [Math.min(x0 + side, widthPx), Math.min(y0 + side, heightPx)];
  const k = pxPerLevelPx(picture, held.level);
  const begin = (index: number): number => index * PICTURE_TILE_PX - (index > 0 ? PICTURE_OVERLAP_PX : 0);
  const [left, top] = [begin(held.column), begin(held.row)];
  return {
    place: compose(place, {
      a: (x1 - x0) / widthPx,
      b: 0,
      c: 0,
      d: (y1 - y0) / heightPx,
      e: x0 / widthPx,
      f: y0 / heightPx,
    }),
    part: [
      (x0 / k - left) / image.width,
      (y0 / k - top) / image.height,
      Math.min((x1 / k - left) / image.width, 1),
      Math.min((y1 / k - top) / image.height, 1),
    ],
  };
}
