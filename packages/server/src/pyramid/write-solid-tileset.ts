import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { solidTileOrigin } from '@gull-pane/core/pyramid/origin';
import { LEAF_ERROR, tilesIn, type PlacedTile } from '@gull-pane/core/pyramid/place';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { CoarseItems, type CoarseForms, type CoarseLimits } from '@gull-pane/core/solid/coarse-items';
import type { SolidItems, TilePiece } from '@gull-pane/core/solid/solid-items';
import type { Material } from '@gull-pane/core/solid/solid-model';
import { encodeSolidTile } from '@gull-pane/core/solid/encode-solid-tile';
import { ShapePacks } from '@gull-pane/core/solid/shape-packs';
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
/** A form is off by at least so much more than those below it, or they would never be looked at. */
const COARSER_THAN_BELOW = 1.3;
/** What weighs less is drawn as it is. */
const LEAST_WHOLE = 16_000;
/** A second form is off by so much more than the first … */
const NEXT_FORM = 2;
/** … which has one only if it weighs more than this. */
const LEAST_COARSE = 2_000;
/** What a tile holds itself has coarse forms if it weighs more than this. */
const LEAST_OWN = 2_000;
/** A form that weighs more than this share of what it stands for isn't worth having. */
const WORTHWHILE = 0.5;

interface Written {
  /** Size of the largest thing of the tile and all below it. */
  readonly largest: number;
  /** Of its finest coarse form, or of those below. */
  readonly error: number;
  /** All of it, as coarse as an error allows. */
  readonly pieces: (error: number) => Iterable<TilePiece>;
  /**
   * Adds what is worth having of coarser forms.
   * @param limit the error of a form above: none as coarse is ever looked at
   */
  readonly complete: (limit: number) => Promise<TileJson>;
}

/**
 * Writes the pyramid of a solid as 3D Tiles 1.1: `tileset.json` and one compressed `.glb.gz` a tile. Tiles add to those above
 * them; where much lies below one, a coarse form of all of it stands before it and is replaced by it. Shapes that stand at several
 * places lie beside the tiles in packs, each once.
 * @param folder where tiles go; made if missing
 * @param addressPrefix what stands before a tile's name in the tileset
 * @param onTile told as tiles are written, with how many there are
 * @returns once all is made; what is still being packed is waited for by `finish`. `pieces` are
 * all that there is, as coarse as an error allows
 */
export async function writeSolidTileset(
  root: PlacedTile,
  items: SolidItems,
  materials: readonly Material[],
  folder: string,
  addressPrefix: string,
  onTile: (written: number, all: number) => void = () => undefined,
): Promise<{ readonly finish: () => Promise<void>; readonly pieces: Written['pieces'] }> {
  mkdirSync(folder, { recursive: true });
  const files = new PackedFiles(folder, 'beside');
  const packs = new ShapePacks();
  const coarseItems = new CoarseItems(items, await loadSimplifier());
  const all = tilesIn(root);
  /** Tiles that were begun, and those that have all their coarse forms. */
  let [count, complete] = [0, 0];
  const tell = (): void => onTile(Math.ceil((count + complete) / 2), all);
  const keep = async (
    name: string,
    pieces: readonly TilePiece[],
    origin: Vec3,
  ): Promise<{ readonly content: { readonly uri: string }; readonly amounts: Omit<TileExtras, 'largest'> }> => {
    const { bytes, triangles, edges, points } = encodeSolidTile(pieces, origin, materials, packs);
    for (const pack of packs.takeFull()) await files.add(pack.name, pack.bytes, TILE_LEVEL);
    await files.add(`${name}.glb`, bytes, TILE_LEVEL);
    const amounts = { segments: edges, triangles, ...(points > 0 ? { points } : {}), texts: 0 };
    return { content: { uri: `${addressPrefix}${name}.glb` }, amounts };
  };
  /** Puts coarser forms before what they stand for, the coarsest at the top. */
  const behind = async (
    json: TileJson,
    forms: readonly CoarseForms[],
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
    tell();
    const { content, amounts } = await keep(name, items.tilePieces(tile.items), origin);
    let largest = tile.items.reduce((most, item) => Math.max(most, items.sizeOf(item)), 0);
    const own: TileJson = { boundingVolume, geometricError: LEAF_ERROR, content, extras: { ...amounts, largest } };
    if (tile.children.length === 0) {
      complete++;
      const asItIs = (): Promise<TileJson> => Promise.resolve({ ...own, transform });
      return { largest, error: 0, pieces: () => items.tilePieces(tile.items), complete: asItIs };
    }
    const below: Written[] = [];
    for (const child of tile.children) below.push(await write(child, origin));
    for (const child of below) largest = Math.max(largest, child.largest);
    const least = COARSER_THAN_BELOW * Math.max(...below.map(({ error }) => error));
    const [first, second] = wholeFormsOf(tile, items, coarseItems, least);
    const completeTo = async (limit: number): Promise<TileJson> => {
      complete++;
      tell();
      const limitBelow = first?.error ?? limit;
      const ownForms = ownFormsOf(tile, items, coarseItems, limitBelow);
      const children: TileJson[] = [];
      for (const child of below) children.push(await child.complete(limitBelow));
      const { geometricError } = tile;
      const group: TileJson =
        ownForms.length === 0
          ? { ...own, geometricError, children, extras: { ...amounts, largest } }
          : {
              boundingVolume,
              geometricError,
              children: [await behind(own, ownForms, `${name}-own`, origin), ...children],
              extras: { segments: 0, triangles: 0, texts: 0, largest },
            };
      const forms = [first, second].filter((form): form is CoarseForms => form !== undefined && form.error < limit);
      return { ...(await behind(group, forms, `${name}-coarse`, origin)), transform };
    };
    const pieces = function* (error: number): Generator<TilePiece> {
      if (first && first.error <= error) {
        yield* first.pieces;
        return;
      }
      yield* items.tilePieces(tile.items);
      for (const child of below) yield* child.pieces(error);
    };
    return { largest, error: first?.error ?? least, pieces, complete: completeTo };
  };
  const { pieces, complete: completeRoot } = await write(root, { x: 0, y: 0, z: 0 });
  const top = await completeRoot(Infinity);
  for (const pack of packs.finish()) await files.add(pack.name, pack.bytes, TILE_LEVEL);
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
  return { finish: () => files.finish(), pieces };
}

/**
 * What stands for a tile and everything below it, and a still coarser form; nothing if that would save little.
 * @param least error of the forms below
 */
function wholeFormsOf(tile: PlacedTile, items: SolidItems, coarseItems: CoarseItems, least: number): CoarseForms[] {
  const below = withAllBelow(tile);
  const whole = weightOfShapes(items, below);
  if (whole < LEAST_WHOLE) return [];
  const most = Math.min(MOST_COARSE, WORTHWHILE * whole);
  const begin = Math.max(errorOf(tile), least);
  const first = lightForm(begin, sideOf(tile), most, (error, limits) => coarseItems.of(below, error, true, limits));
  if (!first) return [];
  if (first.weight < LEAST_COARSE) return [first];
  const make: MakeForm = (error, limits) => coarseItems.of(below, error, false, limits);
  const second = lightForm(NEXT_FORM * first.error, sideOf(tile), WORTHWHILE * first.weight, make);
  return second ? [first, second] : [first];
}

/** What stands for a tile alone, for when what is below it is drawn as it is. */
function ownFormsOf(tile: PlacedTile, items: SolidItems, coarseItems: CoarseItems, limit: number): CoarseForms[] {
  const whole = weightOfShapes(items, tile.items);
  if (whole < LEAST_OWN) return [];
  const make: MakeForm = (error, limits) => coarseItems.of(tile.items, error, false, limits);
  const form = lightForm(errorOf(tile), Math.min(limit, sideOf(tile)), WORTHWHILE * whole, make);
  return form ? [form] : [];
}

type MakeForm = (error: number, limits: CoarseLimits) => CoarseForms;

/** The finest form that weighs no more than a limit. */
function lightForm(least: number, below: number, most: number, make: MakeForm): CoarseForms | null {
  for (let error = least; error < below;) {
    const form = make(error, { tooHeavy: MOST_COARSER * most, wanted: most, mostError: below });
    if (form.error >= below) return null;
    if (form.weight <= most) return form.pieces.length > 0 ? form : null;
    error = form.error * Math.min(Math.max(form.weight / most, LEAST_COARSER), MOST_COARSER);
  }
  return null;
}

const sideOf = ({ box }: PlacedTile): number => Math.max(...[0, 1, 2].map((axis) => box[axis + 3]! - box[axis]!));
const errorOf = (tile: PlacedTile): number => sideOf(tile) / COARSE_STEPS;
/** Triangles and edges: sets of points stand in tiles by the gaps that they fill, which is coarse enough from afar. */
function weightOfShapes(items: SolidItems, chosen: Uint32Array): number {
  let weight = 0;
  for (const item of chosen) if (!('points' in items.source(item))) weight += items.weight.at(item);
  return weight;
}

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

function shiftTo(origin: Vec3, parent: Vec3): number[] {
  const shift = [origin.x - parent.x, origin.y - parent.y, origin.z - parent.z];
  return [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...shift, 1];
}

/** Middle and half axes about an origin. */
function boxOf(box: readonly number[], origin: { x: number; y: number; z: number }): number[] {
  const middle = [0, 1, 2].map((axis) => (box[axis]! + box[axis + 3]!) / 2 - [origin.x, origin.y, origin.z][axis]!);
  const [x, y, z] = [0, 1, 2].map((axis) => (box[axis + 3]! - box[axis]!) / 2) as [number, number, number];
  return [...middle, x, 0, 0, 0, y, 0, 0, 0, z];
}
