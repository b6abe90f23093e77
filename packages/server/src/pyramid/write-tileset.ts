import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { boxDiagonal } from '@gull-pane/core/geometry/box';
import type { ItemTable } from '@gull-pane/core/pyramid/items';
import { tilesIn, type PlacedTile } from '@gull-pane/core/pyramid/place';
import type { TilesetJson, TilesetPicture } from '@gull-pane/protocol/tileset';
import { PICTURES_FOLDER } from './picture-store.ts';
import { TileMaker, namedTiles, originOf, type NamedTile, type TileOrder, type WrittenTile } from './tile-maker.ts';
import { tilesBeside } from './tiles-beside.ts';

/** 3D Tiles count in metres. */
const METRES_PER_UNIT = 0.001;
/** Into how many parts the tree of tiles is cut, so that threads that take one after the other end together. */
const SHARES = 24;

/**
 * Writes the pyramid as 3D Tiles 1.1: `tileset.json` and one compressed `.glb.gz` a tile, with its
 * lines in exact form in `.detail.gz`, its areas in `.fills.gz`. Those of a large drawing are made by several threads.
 * @param table in shared memory where there may be other threads
 * @param order its folder is made if missing
 * @param pictures where raster pictures lie
 * @param onTile told before each tile is written, with how many there are
 * @param fewItems up to how many this thread makes all tiles
 * @returns how many tiles were written
 */
export async function writeTileset(
  root: PlacedTile,
  table: ItemTable,
  order: TileOrder,
  pictures: readonly TilesetPicture[] = [],
  onTile: (written: number, all: number) => void = () => undefined,
  fewItems?: number,
): Promise<number> {
  mkdirSync(order.folder, { recursive: true });
  const all = tilesIn(root);
  let count = 0;
  const tell = (): void => onTile(++count, all);
  const named = namedTiles(root);
  const maker = new TileMaker(table, order, tell);
  const shares = sharesOf(named);
  const made = new Map<NamedTile, WrittenTile>();
  const beside = tilesBeside(table, order, shares, tell, fewItems);
  try {
    for (let share = beside.take(); share < shares.length; share = beside.take()) {
      const { tile, parentOrigin } = shares[share]!;
      made.set(tile, await maker.makeAll(tile, parentOrigin));
    }
    for (const [share, written] of await beside.finish()) made.set(shares[share]!.tile, written);
  } finally {
    await beside.stop();
  }
  const above = async (tile: NamedTile, parentOrigin: { x: number; y: number }): Promise<WrittenTile> => {
    const known = made.get(tile);
    if (known) return known;
    const below: WrittenTile[] = [];
    for (const child of tile.children) below.push(await above(child, originOf(tile)));
    return maker.make(tile, parentOrigin, below);
  };
  const { json: top } = await above(named, { x: 0, y: 0 });
  await maker.finish();
  writeFileSync(join(order.folder, 'tileset.json'), JSON.stringify(tilesetOf(root, top, order, pictures)));
  return count;
}

interface Share {
  readonly tile: NamedTile;
  readonly parentOrigin: { readonly x: number; readonly y: number };
  readonly items: number;
}

const itemsIn = ({ items, children }: PlacedTile): number =>
  children.reduce((sum, child) => sum + itemsIn(child), items.length);

/** Cuts the tree below its top until there are enough parts, the largest first; what lies above them is made last. */
function sharesOf(root: NamedTile): Share[] {
  const shares: Share[] = [{ tile: root, parentOrigin: { x: 0, y: 0 }, items: itemsIn(root) }];
  while (shares.length < SHARES) {
    shares.sort((a, b) => b.items - a.items);
    const at = shares.findIndex(({ tile }) => tile.children.length > 0);
    if (at < 0) break;
    const { tile } = shares[at]!;
    const parentOrigin = originOf(tile);
    const parts = tile.children.map((child) => ({ tile: child, parentOrigin, items: itemsIn(child) }));
    shares.splice(at, 1, ...parts);
  }
  return shares.sort((a, b) => b.items - a.items);
}

function tilesetOf(
  { box }: PlacedTile,
  top: WrittenTile['json'],
  { styles, addressPrefix }: TileOrder,
  pictures: readonly TilesetPicture[],
): TilesetJson {
  const [minX, minY, maxX, maxY] = box as [number, number, number, number];
  const diagonal = boxDiagonal({ min: { x: minX, y: minY, z: 0 }, max: { x: maxX, y: maxY, z: 0 } });
  const k = METRES_PER_UNIT;
  return {
    asset: { version: '1.1', generator: 'Gull Pane' },
    geometricError: Math.max(diagonal, 1) * k,
    root: {
      transform: [k, 0, 0, 0, 0, k, 0, 0, 0, 0, k, 0, 0, 0, 0, 1],
      boundingVolume: {
        box: [(minX + maxX) / 2, (minY + maxY) / 2, 0, (maxX - minX) / 2, 0, 0, 0, (maxY - minY) / 2, 0, 0, 0, 0],
      },
      geometricError: Math.max(diagonal, 1),
      refine: 'ADD',
      children: [top],
    },
    extras: {
      ...(pictures.length > 0 ? { pictures, picturesUri: `${addressPrefix}${PICTURES_FOLDER}/` } : {}),
      styles: styles.map(({ kind, layer, colour, width, dashes }) => ({
        kind,
        layer,
        width,
        dashes,
        colour: [colour.r, colour.g, colour.b, colour.a] as const,
      })),
    },
  };
}
