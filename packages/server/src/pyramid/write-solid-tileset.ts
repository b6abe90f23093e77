import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { solidTileOrigin } from '@gull-pane/core/pyramid/origin';
import { LEAF_ERROR, tilesIn, type PlacedTile } from '@gull-pane/core/pyramid/place';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { CoarseItems } from '@gull-pane/core/solid/coarse-items';
import { weightOfPiece, type SolidItems, type TilePiece } from '@gull-pane/core/solid/solid-items';
import type { Material } from '@gull-pane/core/solid/solid-model';
import { encodeSolidTile } from '@gull-pane/core/solid/solid-tile';
import type { TileJson, TilesetJson } from '@gull-pane/protocol/tileset';
import { PackedFiles, TILE_LEVEL } from './packed-files.ts';
import { loadSimplifier } from './simplify-mesh.ts';

type TileExtras = NonNullable<TileJson['extras']>;

/** 3D Tiles count in metres. */
const METRES_PER_UNIT = 0.001;

/** A tile's coarse form may be off by the longest side of its box, divided by this: half a px where it is seen so large. */
const COARSE_STEPS = 1024;
/** … or by more where it would weigh more than this, in triangles and edges. */
const MOST_COARSE = 24_000;
const [LEAST_COARSER, MOST_COARSER] = [1.3, 4];
/** What weighs less is drawn as it is. */
const LEAST_WHOLE = 16_000;
/** Of one tile there are at most so many forms, each off by so much more than the one before … */
const [MOST_FORMS, NEXT_FORM] = [2, 2];
/** … until one weighs less than this. */
const LEAST_COARSE = 1_000;
/** What a tile holds itself has coarse forms if it weighs more than this. */
const LEAST_OWN = 2_000;
/** A form that weighs more than this share of what it stands for isn't worth having. */
const WORTHWHILE = 0.5;

interface Written {
  readonly json: TileJson;
  /** Size of the largest thing of the tile and all below it. */
  readonly largest: number;
  /** Of its finest coarse form, or of those below. */
  readonly error: number;
}

/**
 * Writes the pyramid of a solid as 3D Tiles 1.1: `tileset.json` and one compressed `.glb.gz` a tile. Tiles add to those above
 * them; where much lies below one, a coarse form of all of it stands before it and is replaced by it.
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
  const coarseItems = new CoarseItems(items, await loadSimplifier());
  const all = tilesIn(root);
  let count = 0;
  const keep = async (
    name: string,
    pieces: readonly TilePiece[],
    origin: Vec3,
  ): Promise<{ readonly content: { readonly uri: string }; readonly amounts: Omit<TileExtras, 'largest'> }> => {
    const { bytes, triangles, edges, points } = encodeSolidTile(pieces, origin, materials);
    await files.add(`${name}.glb`, bytes, TILE_LEVEL);
    const amounts = { segments: edges, triangles, ...(points > 0 ? { points } : {}), texts: 0 };
    return { content: { uri: `${addressPrefix}${name}.glb` }, amounts };
  };
  /** Puts coarser forms before what they stand for, the coarsest at the top. */
  const behind = async (
    json: TileJson,
    forms: readonly CoarseForm[],
    name: string,
    origin: Vec3,
  ): Promise<TileJson> => {
    let top = json;
    for (const [level, form] of forms.entries()) {
      const kept = await keep(`${name}${level}`, form.pieces, origin);
      top = {
        boundingVolume: json.boundingVolume,
        geometricError: form.error,
        refine: 'REPLACE',
        content: kept.content,
        children: [{ ...top, ...(level === 0 ? { refine: 'ADD' } : {}) }],
        extras: { ...kept.amounts, largest: json.extras!.largest },
      };
    }
    return top;
  };
  const write = async (tile: PlacedTile, parent: Vec3): Promise<Written> => {
    const origin = solidTileOrigin(tile.box);
    const transform = shiftTo(origin, parent);
    const boundingVolume = { box: boxOf(tile.box, origin) };
    const name = String(count++);
    onTile(count, all);
    const { content, amounts } = await keep(name, items.tilePieces(tile.items), origin);
    let largest = tile.items.reduce((most, item) => Math.max(most, items.sizeOf(item)), 0);
    const own: TileJson = { boundingVolume, geometricError: LEAF_ERROR, content, extras: { ...amounts, largest } };
    if (tile.children.length === 0) return { json: { ...own, transform }, largest, error: 0 };
    const children = [await behind(own, ownFormsOf(tile, items, coarseItems), `${name}-own`, origin)];
    let least = 0;
    for (const child of tile.children) {
      const below = await write(child, origin);
      children.push(below.json);
      largest = Math.max(largest, below.largest);
      least = Math.max(least, below.error);
    }
    const { geometricError } = tile;
    const extras = { segments: 0, triangles: 0, texts: 0, largest };
    const group: TileJson = { boundingVolume, geometricError, children, extras };
    const forms = wholeFormsOf(tile, items, coarseItems, least);
    const json = await behind(group, forms, `${name}-coarse`, origin);
    return { json: { ...json, transform }, largest, error: forms[0]?.error ?? least };
  };
  const { json: top } = await write(root, { x: 0, y: 0, z: 0 });
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

interface CoarseForm {
  readonly pieces: readonly TilePiece[];
  readonly error: number;
}

/**
 * What stands for a tile and everything below it, each coarser than the one before; nothing if that would save little.
 * @param least error of the forms below
 */
function wholeFormsOf(tile: PlacedTile, items: SolidItems, coarseItems: CoarseItems, least: number): CoarseForm[] {
  const below = withAllBelow(tile);
  const whole = weightOf(items, below);
  if (whole < LEAST_WHOLE) return [];
  const most = Math.min(MOST_COARSE, WORTHWHILE * whole);
  return formsOf(tile, most, least, (error, isFirst) => coarseItems.of(below, error, isFirst));
}

/** The same for a tile alone, for when what is below it is drawn as it is. */
function ownFormsOf(tile: PlacedTile, items: SolidItems, coarseItems: CoarseItems): CoarseForm[] {
  const whole = weightOf(items, tile.items);
  if (whole < LEAST_OWN) return [];
  return formsOf(tile, WORTHWHILE * whole, 0, (error) => coarseItems.of(tile.items, error, false)).slice(0, 1);
}

function formsOf(
  { box }: PlacedTile,
  mostWeight: number,
  least: number,
  make: (error: number, isFirst: boolean) => TilePiece[],
): CoarseForm[] {
  const side = Math.max(...[0, 1, 2].map((axis) => box[axis + 3]! - box[axis]!));
  const forms: CoarseForm[] = [];
  let most = mostWeight;
  for (let error = Math.max(side / COARSE_STEPS, least); error < side && forms.length < MOST_FORMS;) {
    const pieces = make(error, forms.length === 0);
    const weight = pieces.reduce((sum, piece) => sum + weightOfPiece(piece), 0);
    if (weight <= most) {
      forms.push({ pieces, error });
      most = WORTHWHILE * weight;
      if (most < LEAST_COARSE) break;
      error *= NEXT_FORM;
    } else error *= Math.min(Math.max(weight / most, LEAST_COARSER), MOST_COARSER);
  }
  return forms;
}

const weightOf = (items: SolidItems, chosen: Uint32Array): number =>
  chosen.reduce((sum, item) => sum + items.weight.at(item), 0);

/** A tile's items and those of all tiles below it. */
function withAllBelow(tile: PlacedTile): Uint32Array {
  const tiles: PlacedTile[] = [];
  const add = (one: PlacedTile): void => {
    tiles.push(one);
    one.children.forEach(add);
  };
  add(tile);
  const all = new Uint32Array(tiles.reduce((sum, { items }) => sum + items.length, 0));
  let at = 0;
  for (const { items } of tiles) {
    all.set(items, at);
    at += items.length;
  }
  return all.sort();
}

const shiftTo = (origin: Vec3, parent: Vec3): number[] => [
  ...[1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0],
  ...[origin.x - parent.x, origin.y - parent.y, origin.z - parent.z, 1],
];

/** Middle and half axes about an origin. */
function boxOf(box: readonly number[], origin: { x: number; y: number; z: number }): number[] {
  const middle = [0, 1, 2].map((axis) => (box[axis]! + box[axis + 3]!) / 2 - [origin.x, origin.y, origin.z][axis]!);
  const [x, y, z] = [0, 1, 2].map((axis) => (box[axis + 3]! - box[axis]!) / 2) as [number, number, number];
  return [...middle, x, 0, 0, 0, y, 0, 0, 0, z];
}
