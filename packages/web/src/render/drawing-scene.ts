import type { Colour } from '@gull-pane/core/drawing/model';
import { colourToHex, inkOnGround } from '@gull-pane/core/drawing/colour';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { Refiner } from '../tiles/refiner';
import { TileCache, type TileLoader } from '../tiles/tile-cache';
import { readTileset, type Tileset } from '../tiles/tileset';
import { makeMaterials, type DrawingMaterials } from './materials';
import { makeStyleTexture } from './style-texture';
import { TileDrawable } from './tile-drawable';

/** Decoded tiles that are kept, bytes. */
const CACHE_BYTES = 512 * 1024 * 1024;

/** Everything of one drawing that its panes share: tiles, what the graphics processor holds of them, looks of styles. */
export class DrawingScene {
  readonly tileset: Tileset;
  readonly materials: DrawingMaterials;
  readonly #cache: TileCache;
  readonly #refiner: Refiner;
  readonly #base: string;
  readonly #drawables = new Map<number, TileDrawable>();
  readonly #wants = new Map<string, readonly number[]>();
  #ground: Colour;
  #textColours: readonly string[] = [];

  /** @param onChange a tile has come or can't be had */
  constructor(
    drawing: DrawingDto,
    json: TilesetJson,
    ground: Colour,
    startWorker: () => TileLoader,
    onChange: () => void,
  ) {
    this.tileset = readTileset(json);
    this.#ground = ground;
    this.materials = makeMaterials(makeStyleTexture(this.tileset.styles, ground), drawing.counts.objects);
    this.setGround(ground);
    this.#base = `${location.origin}/api/drawings/${drawing.id}/tiles/`;
    this.#refiner = new Refiner(startWorker(), (tile, fine) => {
      if (fine) this.#drawables.get(tile)?.setFine(fine);
      onChange();
    });
    this.#cache = new TileCache({
      urlOf: (tile) => this.#base + this.tileset.tiles[tile]!.uri,
      loader: startWorker(),
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
   * Asks for the exact form of a tile's coarse lines, if it has any.
   * @param region what is near the view, relative to the tile's origin
   */
  wantFine(tile: number, chordError: number, region: Box2 | null): void {
    const { detail } = this.tileset.tiles[tile]!;
    if (detail !== '') this.#refiner.order({ kind: 'refine', tile, url: this.#base + detail, chordError, region });
  }

  isRefining(tile: number): boolean {
    return this.#refiner.isBusyWith(tile);
  }

  textColour(style: number): string {
    return this.#textColours[style] ?? '#000000';
  }

  /** What a pane wants to show, best first; tiles that any pane wants are kept and fetched. */
  want(pane: string, tiles: readonly number[]): void {
    this.#wants.set(pane, tiles);
    const lists = [...this.#wants.values()];
    const longest = Math.max(...lists.map((list) => list.length));
    const union = new Set<number>();
    for (let i = 0; i < longest; i++) for (const list of lists) if (i < list.length) union.add(list[i]!);
    this.#cache.want([...union]);
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
  }
}
