import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { POINTS_PER_WEIGHT } from '@gull-pane/core/solid/point-pieces';
import type { SelectableTile } from '@gull-pane/core/pyramid/select';
import type { TileJson, TilesetJson, TilesetPicture, TilesetStyle } from './tileset.ts';

/** A tile of the flattened tileset. Drawing units. */
export interface TileEntry extends SelectableTile {
  readonly uri: string;
  readonly origin: Vec3;
  readonly texts: number;
  /** Address of the exact form of its coarse lines; empty where all of them are exact. */
  readonly detail: string;
  /** How far its coarse lines may be from their exact course. */
  readonly tolerance: number;
  /** The same for its areas; no address where there are none. */
  readonly fills: string;
  readonly fillTolerance: number;
}

export interface Tileset {
  readonly tiles: readonly TileEntry[];
  readonly styles: readonly TilesetStyle[];
  /** Raster pictures, the lowest first. */
  readonly pictures: readonly TilesetPicture[];
  /** Where their pyramids are, below the drawing's tiles. */
  readonly picturesUri: string;
}

/**
 * Flattens our own tileset: the root's scale to metres is left out, so that everything stays in drawing units, and the
 * shifts of parents and children are added up exactly.
 * @throws RangeError if it isn't one of ours
 */
export function readTileset(json: TilesetJson): Tileset {
  const top = json.root.children?.[0];
  if (!top) throw new RangeError('readTileset: not a tileset of Gull Pane');
  const tiles: TileEntry[] = [];
  const add = (tile: TileJson, parent: Vec3, withheldAbove: number): number => {
    const shift = tile.transform ?? [];
    const origin: Vec3 = {
      x: parent.x + (shift[12] ?? 0),
      y: parent.y + (shift[13] ?? 0),
      z: parent.z + (shift[14] ?? 0),
    };
    const [x = 0, y = 0, z = 0, hx = 0, , , , hy = 0, , , , hz = 0] = tile.boundingVolume.box;
    const {
      segments = 0,
      triangles = 0,
      points = 0,
      texts = 0,
      detail = '',
      tolerance = 0,
      fills = '',
      fillTolerance = 0,
    } = tile.extras ?? {};
    const { largest = withheldAbove } = tile.extras ?? {};
    const index = tiles.length;
    const children: number[] = [];
    tiles.push({
      uri: tile.content?.uri ?? '',
      origin,
      texts,
      children,
      detail,
      tolerance,
      fills,
      fillTolerance,
      centre: { x: origin.x + x, y: origin.y + y, z: origin.z + z },
      halfSize: { x: hx, y: hy, z: hz },
      largest,
      ...(tile.content ? {} : { isEmpty: true }),
      ...(tile.refine === 'REPLACE' ? { coarseness: tile.geometricError } : {}),
      weight: segments + triangles + Math.ceil(points / POINTS_PER_WEIGHT),
    });
    for (const child of tile.children ?? []) children.push(add(child, origin, tile.geometricError));
    return index;
  };
  add(top, { x: 0, y: 0, z: 0 }, Infinity);
  const { styles, pictures = [], picturesUri = '' } = json.extras;
  return { tiles, styles, pictures, picturesUri };
}
