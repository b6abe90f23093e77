import type { DataTexture } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import { colourToHex, inkOnGround } from '@gull-pane/core/drawing/colour';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { Refiner } from '../../tiles/refiner';
import type { TileLoader } from '../../tiles/tile-cache';
import { buffersOf, type TileContent } from '../../tiles/tile-content';
import { readTileset } from '../../tiles/tileset';
import type { TilePart } from '../../tiles/tile-worker';
import { CACHED_BYTES } from '../budgets';
import { paneOf } from '../scene/scene';
import { TiledScene } from '../scene/tiled-scene';
import { exactForm } from './fine-wish';
import { makeMaskTexture } from './mask-texture';
import { makeMaterials, setHidesObjects, type DrawingMaterials } from './materials';
import { makeStyleTexture } from './style-texture';
import type { PictureLayer } from './picture-layer';
import { TileDrawable } from './tile-drawable';

/** What the panes of a flat drawing share: its tiles, their exact forms, the looks of its styles. */
export class FlatScene extends TiledScene<TileContent, TileDrawable> {
  readonly kind = 'flat';
  readonly materials: DrawingMaterials;
  /** What draws raster pictures, where there are any; null until its code is there. */
  pictures: PictureLayer | null = null;
  #isDisposed = false;
  readonly #refiner: Refiner;
  /** What each pane hides, with its texture. */
  readonly #masks = new Map<string, { readonly mask: ObjectMask; readonly texture: DataTexture }>();
  readonly #noMask = makeMaskTexture(null);
  #textColours: readonly string[] = [];

  constructor(drawing: DrawingDto, json: TilesetJson, ground: Colour, startWorker: () => TileLoader) {
    const tileset = readTileset(json);
    super({
      drawingId: drawing.id,
      tileset,
      ground,
      loader: startWorker(),
      buffersOf,
      maxBytes: CACHED_BYTES.flat,
    });
    this.materials = makeMaterials(makeStyleTexture(tileset.styles, ground), this.#noMask, drawing.counts.objects);
    if (tileset.pictures.length > 0) void this.#loadPictures();
    this.setGround(ground);
    this.#refiner = new Refiner(startWorker(), (order, content) => {
      if (content) this.body(order.tile)?.setFine({ content, ...order }, order.pane);
      this.tell();
    });
  }

  override get cachedBytes(): number {
    return super.cachedBytes + (this.pictures?.bytes ?? 0);
  }

  /** Whether there are raster pictures that can't be drawn yet. */
  get lacksPictures(): boolean {
    return this.pictures === null && this.tileset.pictures.length > 0;
  }

  /** What a pane hides; its pictures are named after it. */
  hiddenObjects(picture: string): ObjectMask | null {
    return this.#masks.get(paneOf(picture))?.mask ?? null;
  }

  /** {@link hiddenObjects} as the shaders read it. */
  maskTexture(picture: string): DataTexture {
    return this.#masks.get(paneOf(picture))?.texture ?? this.#noMask;
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
    this.tell();
  }

  override leave(pane: string): void {
    super.leave(pane);
    for (const drawable of this.bodies.values()) drawable.dropFine(pane);
    this.pictures?.leave(pane);
    this.hideObjects(pane, null);
  }

  /**
   * Asks for the exact form of a tile's coarse lines or areas, if it has any.
   * @param picture for which it is wanted: each has its own
   * @param region what is near the view, relative to the tile's origin
   */
  wantFine(picture: string, tile: number, part: TilePart, chordError: number, region: Box2 | null): void {
    const [address] = exactForm(this.tileset.tiles[tile]!, part);
    const url = this.base + address;
    if (address !== '') this.#refiner.order({ kind: 'refine', pane: picture, part, tile, url, chordError, region });
  }

  isRefining(picture: string, tile: number, part: TilePart): boolean {
    return this.#refiner.isBusyWith({ pane: picture, tile, part });
  }

  textColour(style: number): string {
    return this.#textColours[style] ?? '#000000';
  }

  /** The paper that the drawing lies on: inks are shown so that they can be told from it. */
  setGround(ground: Colour): void {
    this.paper = ground;
    const uniform = this.materials.fill.uniforms.styles!; // the uniforms are shared by all materials
    (uniform.value as { dispose(): void }).dispose();
    uniform.value = makeStyleTexture(this.tileset.styles, ground);
    this.#textColours = this.tileset.styles.map(({ colour: [r, g, b, a] }) =>
      colourToHex(inkOnGround({ r, g, b, a }, ground)),
    );
  }

  override dispose(): void {
    this.#isDisposed = true;
    super.dispose();
    this.#refiner.close();
    this.pictures?.dispose();
    for (const material of this.materials.all) material.dispose();
    (this.materials.fill.uniforms.styles!.value as { dispose(): void }).dispose();
    for (const { texture } of this.#masks.values()) texture.dispose();
    this.#noMask.dispose();
  }

  async #loadPictures(): Promise<void> {
    const { PictureLayer } = await import('./picture-layer');
    if (this.#isDisposed) return;
    const { pictures, picturesUri } = this.tileset;
    this.pictures = new PictureLayer(pictures, this.base + picturesUri, () => this.tell());
    this.tell();
  }

  protected makeBody(tile: number, content: TileContent): TileDrawable {
    const { origin, centre, halfSize } = this.tileset.tiles[tile]!;
    const [x, y] = [centre.x - origin.x, centre.y - origin.y];
    const box = { minX: x - halfSize.x, minY: y - halfSize.y, maxX: x + halfSize.x, maxY: y + halfSize.y };
    return new TileDrawable(content, origin, box, this.materials);
  }
}
