import type { DataTexture } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import { colourToHex, inkOnGround } from '@gull-pane/core/drawing/colour';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { Refiner } from '../tiles/refiner';
import { TileCache, type TileLoader } from '../tiles/tile-cache';
import { buffersOf } from '../tiles/tile-content';
import { readTileset, type Tileset } from '../tiles/tileset';
import type { TilePart } from '../tiles/tile-worker';
import { exactForm } from './fine-wish';
import { PaneWishes } from './pane-wishes';
import { makeMaskTexture } from './mask-texture';
import { paneOf, type Scene } from './scene';
import { makeMaterials, setHidesObjects, type DrawingMaterials } from './materials';
import { makeStyleTexture } from './style-texture';
import { TileDrawable } from './tile-drawable';

/** Decoded tiles that are kept, bytes. */
const CACHE_BYTES = 512 * 1024 * 1024;

/** Everything of one drawing that its panes share: tiles, what the graphics processor holds of them, looks of styles. */
export class DrawingScene implements Scene {
  readonly kind = 'flat';
  readonly tileset: Tileset;
  readonly materials: DrawingMaterials;
  readonly #cache: TileCache;
  readonly #refiner: Refiner;
  readonly #base: string;
  readonly #drawables = new Map<number, TileDrawable>();
  readonly #wishes = new PaneWishes();
  #ground: Colour;
  /** What each pane hides, with its texture. */
  readonly #masks = new Map<string, { readonly mask: ObjectMask; readonly texture: DataTexture }>();
  readonly #noMask = makeMaskTexture(null);
  #textColours: readonly string[] = [];

  readonly #listeners = new Set<() => void>();

  constructor(drawing: DrawingDto, json: TilesetJson, ground: Colour, startWorker: () => TileLoader) {
    const onChange = (): void => {
      for (const listener of this.#listeners) listener();
    };
    this.tileset = readTileset(json);
    this.#ground = ground;
    this.materials = makeMaterials(makeStyleTexture(this.tileset.styles, ground), this.#noMask, drawing.counts.objects);
    this.setGround(ground);
    this.#base = `${location.origin}/api/drawings/${drawing.id}/tiles/`;
    this.#refiner = new Refiner(startWorker(), (order, content) => {
      if (content) this.#drawables.get(order.tile)?.setFine({ content, ...order }, order.pane);
      onChange();
    });
    this.#cache = new TileCache({
      urlOf: (tile) => this.#base + this.tileset.tiles[tile]!.uri,
      loader: startWorker(),
      buffersOf,
      maxBytes: CACHE_BYTES,
      now: () => performance.now(),
      onLoaded: (tile, content) => {
        const { origin, centre, halfSize } = this.tileset.tiles[tile]!;
        const [x, y] = [centre.x - origin.x, centre.y - origin.y];
        const box = { minX: x - halfSize.x, minY: y - halfSize.y, maxX: x + halfSize.x, maxY: y + halfSize.y };
        this.#drawables.set(tile, new TileDrawable(content, origin, box, this.materials));
        onChange();
      },
      onEvicted: (tile) => {
        this.#drawables.get(tile)?.dispose();
        this.#drawables.delete(tile);
      },
      onFailed: (tile, reason) => {
        console.error(`tile ${this.tileset.tiles[tile]!.uri}: ${reason}`);
        onChange();
      },
    });
  }

  /** @param listener called when a tile has come or can't be had @returns a function that ends that */
  onChange(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** What a pane hides; its pictures are named after it. */
  hiddenObjects(picture: string): ObjectMask | null {
    return this.#masks.get(paneOf(picture))?.mask ?? null;
  }

  /** Whether more objects are hidden than shown: what stands for many of them would stand for hidden ones. */
  isMostlyHidden(picture: string): boolean {
    const mask = this.hiddenObjects(picture);
    return mask !== null && 2 * mask.count > mask.bytes.length;
  }

  hideObjects(pane: string, mask: ObjectMask | null): void {
    const before = this.#masks.get(pane);
    if (mask === (before?.mask ?? null)) return;
    before?.texture.dispose();
    if (mask) this.#masks.set(pane, { mask, texture: makeMaskTexture(mask) });
    else this.#masks.delete(pane);
    setHidesObjects(this.materials, this.#masks.size > 0);
    for (const listener of this.#listeners) listener();
  }

  leave(pane: string): void {
    this.#cache.want(this.#wishes.drop(pane));
    for (const drawable of this.#drawables.values()) drawable.dropFine(pane);
    this.hideObjects(pane, null);
  }

  /** What is drawn from now on is drawn for a picture of a pane. */
  enter(picture: string): void {
    // the uniforms are shared by all materials
    this.materials.fill.uniforms.hiddenObjects!.value = this.#masks.get(paneOf(picture))?.texture ?? this.#noMask;
  }

  get ground(): Colour {
    return this.#ground;
  }

  /** Bytes of decoded tiles. */
  get cachedBytes(): number {
    return this.#cache.bytes;
  }

  drawable(tile: number): TileDrawable | undefined {
    return this.#drawables.get(tile);
  }

  /** Whether a tile is there, or can't be had: nothing is gained by waiting for it. */
  isAwaited(tile: number): boolean {
    return this.#cache.isAwaited(tile);
  }

  /**
   * Asks for the exact form of a tile's coarse lines or areas, if it has any.
   * @param picture for which it is wanted: each has its own
   * @param region what is near the view, relative to the tile's origin
   */
  wantFine(picture: string, tile: number, part: TilePart, chordError: number, region: Box2 | null): void {
    const [address] = exactForm(this.tileset.tiles[tile]!, part);
    const url = this.#base + address;
    if (address !== '') this.#refiner.order({ kind: 'refine', pane: picture, part, tile, url, chordError, region });
  }

  isRefining(picture: string, tile: number, part: TilePart): boolean {
    return this.#refiner.isBusyWith({ pane: picture, tile, part });
  }

  textColour(style: number): string {
    return this.#textColours[style] ?? '#000000';
  }

  /** What a pane wants to show, best first; tiles that any pane wants are kept and fetched. */
  want(pane: string, tiles: readonly number[]): void {
    this.#cache.want(this.#wishes.change(pane, tiles));
  }

  /** The paper that the drawing lies on: inks are shown so that they can be told from it. */
  setGround(ground: Colour): void {
    this.#ground = ground;
    const uniform = this.materials.fill.uniforms.styles!; // the uniforms are shared by all materials
    (uniform.value as { dispose(): void }).dispose();
    uniform.value = makeStyleTexture(this.tileset.styles, ground);
    this.#textColours = this.tileset.styles.map(({ colour: [r, g, b, a] }) =>
      colourToHex(inkOnGround({ r, g, b, a }, ground)),
    );
  }

  dispose(): void {
    this.#cache.close();
    this.#refiner.close();
    for (const drawable of this.#drawables.values()) drawable.dispose();
    for (const material of this.materials.all) material.dispose();
    (this.materials.fill.uniforms.styles!.value as { dispose(): void }).dispose();
    for (const { texture } of this.#masks.values()) texture.dispose();
    this.#noMask.dispose();
  }
}
