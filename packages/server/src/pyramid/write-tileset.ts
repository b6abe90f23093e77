import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { boxDiagonal } from '@gull-pane/core/geometry/box';
import type { Style } from '@gull-pane/core/drawing/model';
import { encodeDetail } from '@gull-pane/core/pyramid/detail';
import { ItemKind, type ItemTable } from '@gull-pane/core/pyramid/items';
import { tileOrigin } from '@gull-pane/core/pyramid/origin';
import { tilesIn, type PlacedTile } from '@gull-pane/core/pyramid/place';
import { standInsFor, type TileInk } from '@gull-pane/core/pyramid/stand-ins';
import { encodeTile } from '@gull-pane/core/pyramid/encode-tile';
import type { TileStyle } from '@gull-pane/core/pyramid/tile-format';
import type { TileJson, TilesetJson, TilesetPicture } from '@gull-pane/protocol/tileset';
import { PackedFiles } from './packed-files.ts';
import { PICTURES_FOLDER } from './picture-store.ts';

/** The grid of a tile's vertices: so many steps to its longer side, less than a hundredth of a px where it is used. */
const STEPS_PER_TILE = 2 ** 16;
/** A tile's lines keep to their exact course within this share of the tile's longer side: 0.3 px when it is 1200 px. */
const TOLERANCES_PER_TILE = 4000;
/** 3D Tiles count in metres. */
const METRES_PER_UNIT = 0.001;

type FlatBox = readonly [minX: number, minY: number, maxX: number, maxY: number];

interface WrittenTile {
  readonly json: TileJson;
  /** Of it and all below. */
  readonly ink: TileInk;
  /** Size of the largest thing with stand-ins here and below, drawing units. */
  readonly largestThing: number;
}

/**
 * Writes the pyramid as 3D Tiles 1.1: `tileset.json` and one compressed `.glb.gz` a tile, with its
 * lines in exact form in `.detail.gz`, its areas in `.fills.gz`.
 * @param tiles where tiles go; made if missing
 * @param addressPrefix what stands before a tile's name in the tileset
 * @param pictures where raster pictures lie
 * @param onTile told before each tile is written, with how many there are
 * @returns how many tiles were written
 */
export async function writeTileset(
  root: PlacedTile,
  table: ItemTable,
  styles: readonly Style[],
  folder: string,
  addressPrefix: string,
  pictures: readonly TilesetPicture[] = [],
  onTile: (written: number, all: number) => void = () => undefined,
): Promise<number> {
  mkdirSync(folder, { recursive: true });
  const tileStyles = styles.map(({ colour, dashes, width }): TileStyle => ({
    colour: [colour.r / 255, colour.g / 255, colour.b / 255, colour.a / 255],
    isDashed: dashes.length > 0,
    width,
  }));
  const [minX, minY, maxX, maxY] = root.box as FlatBox;
  const all = tilesIn(root);
  let count = 0;
  const files = new PackedFiles(folder);
  const write = async (tile: PlacedTile, parentOrigin: { x: number; y: number }): Promise<WrittenTile> => {
    const [minX, minY, maxX, maxY] = tile.box as FlatBox;
    const origin = tileOrigin(minX, minY, maxX, maxY);
    const name = String(count++);
    onTile(count, all);
    const longer = Math.max(maxX - minX, maxY - minY, Number.MIN_VALUE);
    const tolerance = longer / TOLERANCES_PER_TILE;
    const step = 2 ** Math.floor(Math.log2(longer / STEPS_PER_TILE));
    const styleOf = (style: number): TileStyle => tileStyles[style]!;
    const below: WrittenTile[] = [];
    for (const child of tile.children) below.push(await write(child, origin));
    const children = below.map(({ json }) => json);
    const belowInk = below.map(({ ink }) => ink);
    const { bytes, lineError, fillError, segments, triangles, order } = encodeTile(table, tile.items, {
      origin,
      styleOf,
      tolerance,
      step,
      standIns: belowInk.map(({ standIns }) => standIns),
      longer,
    });
    const largestOf = (items: readonly number[]): number =>
      items.reduce((most, item) => Math.max(most, table.sizeOf(item)), 0);
    const largest = Math.max(largestOf(tile.items), tile.geometricError);
    await files.add(`${name}.glb`, bytes);
    const lines = tile.items.filter((item) => table.kind.at(item) === ItemKind.line);
    const fills = tile.items.filter((item) => table.kind.at(item) === ItemKind.fill);
    const largestThing = Math.max(largestOf([...lines, ...fills]), ...below.map((child) => child.largestThing));
    if (lines.length > 0) await files.add(`${name}.detail`, encodeDetail(table, lines, origin, styleOf));
    if (fills.length > 0) await files.add(`${name}.fills`, encodeDetail(table, fills, origin, styleOf));
    const middle = [(minX + maxX) / 2 - origin.x, (minY + maxY) / 2 - origin.y, 0];
    const json: TileJson = {
      transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, origin.x - parentOrigin.x, origin.y - parentOrigin.y, 0, 1],
      boundingVolume: { box: [...middle, (maxX - minX) / 2, 0, 0, 0, (maxY - minY) / 2, 0, 0, 0, 0] },
      geometricError: tile.geometricError,
      content: { uri: `${addressPrefix}${name}.glb` },
      ...(children.length > 0 ? { children } : {}),
      extras: {
        segments,
        triangles,
        largest,
        texts: tile.items.filter((item) => table.kind.at(item) === ItemKind.text).length,
        ...(lines.length > 0 ? { detail: `${addressPrefix}${name}.detail`, tolerance: lineError } : {}),
        ...(fills.length > 0 ? { fills: `${addressPrefix}${name}.fills`, fillTolerance: fillError } : {}),
      },
    };
    return { json, ink: standInsFor(table, order, belowInk, largestThing), largestThing };
  };
  const top = (await write(root, { x: 0, y: 0 })).json;
  await files.finish();
  const diagonal = boxDiagonal({ min: { x: minX, y: minY, z: 0 }, max: { x: maxX, y: maxY, z: 0 } });
  const k = METRES_PER_UNIT;
  const tileset: TilesetJson = {
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
  writeFileSync(join(folder, 'tileset.json'), JSON.stringify(tileset));
  return count;
}
