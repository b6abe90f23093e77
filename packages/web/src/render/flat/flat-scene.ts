import type { WebGLRenderer } from 'three';
import type { Colour } from '@gull-pane/core/drawing/model';
import { colourToHex, inkOnGround } from '@gull-pane/core/drawing/colour';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { Refiner } from '../../tiles/refiner';
import type { TileLoader } from '../../tiles/tile-cache';
import { buffersOf, type TileContent } from '../../tiles/tile-content';
import { readTileset } from '@gull-pane/protocol/read-tileset';
import type { TilePart } from '../../tiles/tile-worker';
import { CACHED_BYTES } from '../budgets';
import { paneOf } from '../scene/scene';
import { TiledScene } from '../scene/tiled-scene';
import { FlatBatches } from './batch/flat-batches';
import type { TexelData } from './batch/texel-data';
import { exactForm } from './fine-wish';
import { makeMaskTexture } from './mask-texture';
import { makeStyleTexture } from './style-texture';
import type { PictureLayer } from './picture-layer';
import { TileDrawable } from './tile-drawable';

/** What the panes of a flat drawing share: its tiles, their exact forms, the looks of its styles. */
export class FlatScene extends TiledScene<TileContent, TileDrawable> {
  readonly kind = 'flat';
  /** What draws raster pictures, where there are any; null until its code is there. */
  pictures: PictureLayer | null = null;
  #isDisposed = false;
  readonly #refiner: Refiner;
  /** What each pane hides, with its texture. */
  readonly #masks = new Map<string, { readonly mask: ObjectMask; readonly texture: TexelData }>();
  #styles: TexelData;
  /** What each graphics processor holds, and for how many pictures. */
  readonly #batches = new Map<WebGLRenderer, { readonly batches: FlatBatches; pictures: number }>();
  #textColours: readonly string[] = [];

  constructor(
    private readonly drawing: DrawingDto,
    json: TilesetJson,
    ground: Colour,
    startWorker: () => TileLoader,
  ) {
    const tileset = readTileset(json);
    super({
      drawingId: drawing.id,
      tileset,
      ground,
      loader: startWorker(),
      buffersOf,
      maxBytes: CACHED_BYTES.flat,
    });
    this.#styles = makeStyleTexture(tileset.styles, ground);
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
  maskTexture(picture: string): TexelData | null {
    return this.#masks.get(paneOf(picture))?.texture ?? null;
  }

  /** How styles look, as the shaders read it. */
  get styles(): TexelData {
    return this.#styles;
  }

  /** From one place in the order of painting to the next, in depth: a fill, then the lines of the same object. */
  get depthStep(): number {
    return 2 / (2 * this.drawing.counts.objects + 4);
  }

  /** The point that tile origins and the view's middle are measured from, drawing units. */
  get anchor(): Vec3 {
    return this.tileset.tiles[0]?.origin ?? { x: 0, y: 0, z: 0 };
  }

  /** What draws with a renderer; given back with {@link returnBatches}. */
  borrowBatches(renderer: WebGLRenderer): FlatBatches {
    let held = this.#batches.get(renderer);
    if (!held) this.#batches.set(renderer, (held = { batches: new FlatBatches(renderer, this.anchor), pictures: 0 }));
    held.pictures++;
    return held.batches;
  }

  returnBatches(renderer: WebGLRenderer): void {
    const held = this.#batches.get(renderer);
    if (!held || --held.pictures > 0) return;
    held.batches.dispose();
    this.#batches.delete(renderer);
  }

  /** Whether more objects are hidden than shown: what stands for many of them would stand for hidden ones. */
  isMostlyHidden(picture: string): boolean {
    const mask = this.hiddenObjects(picture);
    return mask !== null && 2 * mask.count > mask.bytes.length;
  }

  hideObjects(pane: string, mask: ObjectMask | null): void {
    const before = this.#masks.get(pane);
    if (mask === (before?.mask ?? null)) return;
    if (mask) this.#masks.set(pane, { mask, texture: makeMaskTexture(mask) });
    else this.#masks.delete(pane);
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
    this.#styles = makeStyleTexture(this.tileset.styles, ground);
    this.#textColours = this.tileset.styles.map(({ colour: [r, g, b, a] }) =>
      colourToHex(inkOnGround({ r, g, b, a }, ground)),
    );
  }

  override dispose(): void {
    this.#isDisposed = true;
    super.dispose();
    this.#refiner.close();
    this.pictures?.dispose();
    for (const { batches } of this.#batches.values()) batches.dispose();
    this.#batches.clear();
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
    return new TileDrawable(content, origin, box);
  }
}
