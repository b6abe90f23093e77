import type { Colour } from '@gull-pane/core/drawing/model';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { TileCache, type FromLoader, type Loader, type ToLoader } from '../../tiles/tile-cache';
import type { Tileset } from '@gull-pane/protocol/read-tileset';
import { PaneWishes } from './pane-wishes';
import type { Scene } from './scene';

export interface TiledSceneOptions<Content> {
  readonly drawingId: string;
  readonly tileset: Tileset;
  readonly ground: Colour;
  readonly loader: Loader<ToLoader, FromLoader<Content>>;
  readonly buffersOf: (content: Content) => readonly { readonly byteLength: number }[];
  /** Decoded tiles that are kept, bytes. */
  readonly maxBytes: number;
}

/** What the panes of a drawing of any kind share: its tiles as they come, and what a graphics processor holds of them. */
export abstract class TiledScene<Content, Body extends { dispose(): void }> implements Scene {
  abstract readonly kind: 'flat' | 'solid';
  readonly tileset: Tileset;
  /** Where the drawing's tiles are. */
  protected readonly base: string;
  /** Of the tiles that are there. */
  protected readonly bodies = new Map<number, Body>();
  protected paper: Colour;
  readonly #cache: TileCache<Content>;
  readonly #wishes = new PaneWishes();
  readonly #listeners = new Set<() => void>();

  protected constructor({ drawingId, tileset, ground, loader, buffersOf, maxBytes }: TiledSceneOptions<Content>) {
    this.tileset = tileset;
    this.paper = ground;
    this.base = `${location.origin}/api/drawings/${drawingId}/tiles/`;
    this.#cache = new TileCache<Content>({
      urlOf: (tile) => this.base + tileset.tiles[tile]!.uri,
      loader,
      buffersOf,
      maxBytes,
      now: () => performance.now(),
      onLoaded: (tile, content) => {
        this.bodies.set(tile, this.makeBody(tile, content));
        this.tell();
      },
      onEvicted: (tile) => {
        this.bodies.get(tile)?.dispose();
        this.bodies.delete(tile);
      },
      onFailed: (tile, reason) => {
        console.error(`tile ${tileset.tiles[tile]!.uri}: ${reason}`);
        this.tell();
      },
    });
  }

  get ground(): Colour {
    return this.paper;
  }

  get cachedBytes(): number {
    return this.#cache.bytes;
  }

  onChange(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** What is drawn of a tile; undefined while it isn't there. */
  body(tile: number): Body | undefined {
    return this.bodies.get(tile);
  }

  /** Whether a tile is still to come: neither there nor given up. */
  isAwaited(tile: number): boolean {
    return this.#cache.isAwaited(tile);
  }

  want(picture: string, tiles: readonly number[]): void {
    this.#cache.want(this.#wishes.change(picture, tiles));
  }

  leave(pane: string): void {
    this.#cache.want(this.#wishes.drop(pane));
  }

  dispose(): void {
    this.#cache.close();
  }

  abstract setGround(ground: Colour): void;
  abstract hideObjects(pane: string, mask: ObjectMask | null): void;
  protected abstract makeBody(tile: number, content: Content): Body;

  /** Tells all listeners that something looks different now. */
  tell(): void {
    for (const listener of this.#listeners) listener();
  }
}
