import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { solidTileOrigin } from '@gull-pane/core/pyramid/origin';
import { tilesIn, type PlacedTile } from '@gull-pane/core/pyramid/place';
import type { SolidItems } from '@gull-pane/core/solid/solid-items';
import type { Material } from '@gull-pane/core/solid/solid-model';
import { encodeSolidTile } from '@gull-pane/core/solid/solid-tile';
import type { TileJson, TilesetJson } from '@gull-pane/protocol/tileset';
import { PackedFiles, TILE_LEVEL } from './packed-files.ts';

/** 3D Tiles count in metres. */
const METRES_PER_UNIT = 0.001;

/**
 * Writes the pyramid of a solid as 3D Tiles 1.1: `tileset.json` and one compressed `.glb.gz` a tile.
 * @param folder where tiles go; made if missing
 * @param addressPrefix what stands before a tile's name in the tileset
 * @param onTile told before each tile is written, with how many there are
 * @returns once all is made; what is still being packed is waited for by `finish`
 */
export async function writeSolidTileset(
  root: PlacedTile,
  items: SolidItems,
  materials: readonly Material[],
  folder: string,
  addressPrefix: string,
  onTile: (written: number, all: number) => void = () => undefined,
): Promise<{ readonly finish: () => Promise<void> }> {
  mkdirSync(folder, { recursive: true });
  const files = new PackedFiles(folder);
  const all = tilesIn(root);
  let count = 0;
  const write = async (tile: PlacedTile, parent: { x: number; y: number; z: number }): Promise<[TileJson, number]> => {
    const origin = solidTileOrigin(tile.box);
    const name = String(count++);
    onTile(count, all);
    const { bytes, triangles, edges, points } = encodeSolidTile(items, Array.from(tile.items), origin, materials);
    await files.add(`${name}.glb`, bytes, TILE_LEVEL);
    const children: TileJson[] = [];
    let largest = tile.items.reduce((most, item) => Math.max(most, items.sizeOf(item)), 0);
    for (const child of tile.children) {
      const [json, below] = await write(child, origin);
      children.push(json);
      largest = Math.max(largest, below);
    }
    const shift = [origin.x - parent.x, origin.y - parent.y, origin.z - parent.z];
    const json: TileJson = {
      transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...shift, 1],
      boundingVolume: { box: boxOf(tile.box, origin) },
      geometricError: tile.geometricError,
      content: { uri: `${addressPrefix}${name}.glb` },
      ...(children.length > 0 ? { children } : {}),
      extras: { segments: edges, triangles, ...(points > 0 ? { points } : {}), texts: 0, largest },
    };
    return [json, largest];
  };
  const [top] = await write(root, { x: 0, y: 0, z: 0 });
  const size = Math.max(Math.hypot(...[0, 1, 2].map((axis) => root.box[axis + 3]! - root.box[axis]!)), 1);
  const k = METRES_PER_UNIT;
  const tileset: TilesetJson = {
    asset: { version: '1.1', generator: 'Gull Pane' },
    geometricError: size * k,
    root: {
      transform: [k, 0, 0, 0, 0, k, 0, 0, 0, 0, k, 0, 0, 0, 0, 1],
      boundingVolume: { box: boxOf(root.box, { x: 0, y: 0, z: 0 }) },
      geometricError: size,
      refine: 'ADD',
      children: [top],
    },
    extras: { styles: [] },
  };
  writeFileSync(join(folder, 'tileset.json'), JSON.stringify(tileset));
  return { finish: () => files.finish() };
}

/** Middle and half axes about an origin. */
function boxOf(box: readonly number[], origin: { x: number; y: number; z: number }): number[] {
  const middle = [0, 1, 2].map((axis) => (box[axis]! + box[axis + 3]!) / 2 - [origin.x, origin.y, origin.z][axis]!);
  const [x, y, z] = [0, 1, 2].map((axis) => (box[axis + 3]! - box[axis]!) / 2) as [number, number, number];
  return [...middle, x, 0, 0, 0, y, 0, 0, 0, z];
}
