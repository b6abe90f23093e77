import type { Style } from '@gull-pane/core/drawing/model';
import { encodeDetail } from '@gull-pane/core/pyramid/detail';
import { encodeTile } from '@gull-pane/core/pyramid/encode-tile';
import { ItemKind, type ItemTable } from '@gull-pane/core/pyramid/items';
import { tileOrigin } from '@gull-pane/core/pyramid/origin';
import type { PlacedTile } from '@gull-pane/core/pyramid/place';
import { standInsFor, type TileInk } from '@gull-pane/core/pyramid/stand-ins';
import type { TileStyle } from '@gull-pane/core/pyramid/tile-format';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import type { TileJson } from '@gull-pane/protocol/tileset';
import { PackedFiles, TILE_LEVEL } from './packed-files.ts';

/** The grid of a tile's vertices: so many steps to its longer side, less than a hundredth of a px where it is used. */
const STEPS_PER_TILE = 2 ** 16;
/** A tile's lines keep to their exact course within this share of the tile's longer side: 0.3 px when it is 1200 px. */
const TOLERANCES_PER_TILE = 4000;

/** How hard is tried to make exact forms small: they are fetched of what is near alone. */
const EXACT_LEVEL = 1;

type FlatBox = readonly [minX: number, minY: number, maxX: number, maxY: number];

/** A tile with the name of its files. */
export interface NamedTile extends PlacedTile {
  readonly name: string;
  readonly children: readonly NamedTile[];
}

/** Names tiles by their number, each before those below it. */
export function namedTiles(root: PlacedTile): NamedTile {
  let count = 0;
  const name = (tile: PlacedTile): NamedTile => {
    const own = String(count++);
    return { ...tile, name: own, children: tile.children.map(name) };
  };
  return name(root);
}

/** What is known of a tile once its files are made. */
export interface WrittenTile {
  readonly json: TileJson;
  /** Of it and all below. */
  readonly ink: TileInk;
  /** Size of the largest thing with stand-ins here and below, drawing units. */
  readonly largestThing: number;
}

/** All that tiles are made of, beside the items. */
export interface TileOrder {
  readonly styles: readonly Style[];
  readonly folder: string;
  /** What stands before a tile's name in the tileset. */
  readonly addressPrefix: string;
}

/** Where a tile lies that others are placed by. */
export const originOf = ({ box }: PlacedTile): Vec2 => tileOrigin(...(box as FlatBox));

/** Makes the files of tiles: `.glb.gz`, and with lines and areas in exact form `.detail.gz` and `.fills.gz`. */
export class TileMaker {
  readonly #styles: readonly TileStyle[];
  readonly #files: PackedFiles;

  /** @param onTile called before each tile is made */
  constructor(
    private readonly table: ItemTable,
    private readonly order: TileOrder,
    private readonly onTile: () => void,
  ) {
    this.#files = new PackedFiles(order.folder, 'here');
    this.#styles = order.styles.map(({ colour, dashes, width }) => ({
      colour: [colour.r / 255, colour.g / 255, colour.b / 255, colour.a / 255],
      isDashed: dashes.length > 0,
      width,
    }));
  }

  /** Makes a tile and all below it. */
  async makeAll(tile: NamedTile, parentOrigin: Vec2): Promise<WrittenTile> {
    const below: WrittenTile[] = [];
    for (const child of tile.children) below.push(await this.makeAll(child, originOf(tile)));
    return this.make(tile, parentOrigin, below);
  }

  /** @param below its children, made before */
  async make(tile: NamedTile, parentOrigin: Vec2, below: readonly WrittenTile[]): Promise<WrittenTile> {
    this.onTile();
    const { table } = this;
    const [minX, minY, maxX, maxY] = tile.box as FlatBox;
    const origin = originOf(tile);
    const longer = Math.max(maxX - minX, maxY - minY, Number.MIN_VALUE);
    const belowInk = below.map(({ ink }) => ink);
    const { bytes, lineError, fillError, segments, triangles, order } = encodeTile(table, Array.from(tile.items), {
      origin,
      styleOf: (style) => this.#styles[style]!,
      tolerance: longer / TOLERANCES_PER_TILE,
      step: 2 ** Math.floor(Math.log2(longer / STEPS_PER_TILE)),
      standIns: belowInk.map(({ standIns }) => standIns),
      longer,
    });
    // lines stand before areas
    const firstFill = order.findIndex((item) => table.kind.at(item) === ItemKind.fill);
    const lines = firstFill < 0 ? order : order.slice(0, firstFill);
    const fills = firstFill < 0 ? [] : order.slice(firstFill);
    await this.#files.add(`${tile.name}.glb`, bytes, TILE_LEVEL);
    if (lines.length > 0) await this.#files.add(`${tile.name}.detail`, encodeDetail(table, lines, origin), EXACT_LEVEL);
    if (fills.length > 0) await this.#files.add(`${tile.name}.fills`, encodeDetail(table, fills, origin), EXACT_LEVEL);
    const largestThing = Math.max(this.#largestOf(order), ...below.map((child) => child.largestThing));
    const middle = [(minX + maxX) / 2 - origin.x, (minY + maxY) / 2 - origin.y, 0];
    const prefix = this.order.addressPrefix;
    const json: TileJson = {
      transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, origin.x - parentOrigin.x, origin.y - parentOrigin.y, 0, 1],
      boundingVolume: { box: [...middle, (maxX - minX) / 2, 0, 0, 0, (maxY - minY) / 2, 0, 0, 0, 0] },
      geometricError: tile.geometricError,
      content: { uri: `${prefix}${tile.name}.glb` },
      ...(below.length > 0 ? { children: below.map((child) => child.json) } : {}),
      extras: {
        segments,
        triangles,
        largest: Math.max(this.#largestOf(tile.items), tile.geometricError),
        texts: tile.items.length - order.length,
        ...(lines.length > 0 ? { detail: `${prefix}${tile.name}.detail`, tolerance: lineError } : {}),
        ...(fills.length > 0 ? { fills: `${prefix}${tile.name}.fills`, fillTolerance: fillError } : {}),
      },
    };
    return { json, ink: standInsFor(table, order, belowInk, largestThing), largestThing };
  }

  /** Comes back when all files are there. */
  finish(): Promise<void> {
    return this.#files.finish();
  }

  #largestOf(items: ArrayLike<number>): number {
    let most = 0;
    for (let i = 0; i < items.length; i++) most = Math.max(most, this.table.sizeOf(items[i]!));
    return most;
  }
}
