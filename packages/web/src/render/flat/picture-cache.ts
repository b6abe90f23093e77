import { LinearFilter, LinearMipmapLinearFilter, NoColorSpace, Texture } from 'three';
import { pictureParent, type PictureTile } from '@gull-pane/core/pictures/picture-tiles';
import type { TilesetPicture } from '@gull-pane/protocol/tileset';
import { CACHED_BYTES } from '../budgets';

/** Tiles that are fetched at the same time. */
const FETCHES = 6;
/** Tiles that arrive within this time are announced together, ms: each announcement restarts the picture. */
const TELL_AFTER_MS = 60;
const BYTES_PER_PX = 4;

/** A tile of a picture's pyramid as it is drawn. */
export interface HeldTile {
  readonly tile: PictureTile;
  readonly texture: Texture;
  readonly width: number;
  readonly height: number;
}

/** What names the files of a pyramid. */
export type PictureFiles = Pick<TilesetPicture, 'source' | 'ending'>;

interface Entry {
  readonly key: string;
  state: 'awaited' | 'there' | 'failed';
  held: HeldTile | null;
  usedAt: number;
}

const keyOf = ({ source, ending }: PictureFiles, { level, column, row }: PictureTile): string =>
  `${source}/${level}/${column}_${row}.${ending}`;

/** Fetches and keeps the tiles of a drawing's raster pictures: those in sight first, the last used ones longest. */
export class PictureCache {
  readonly #entries = new Map<string, Entry>();
  /** What each picture of a pane wants, the most wanted first. */
  readonly #wishes = new Map<string, ReadonlyMap<string, PictureTile>>();
  readonly #fetching = new Map<string, AbortController>();
  #bytes = 0;
  #clock = 0;
  #telling: ReturnType<typeof setTimeout> | undefined;
  /** Rises whenever tiles have come. */
  version = 0;

  /**
   * @param base where the pyramids are
   * @param onChange told when tiles have come
   */
  constructor(
    private readonly base: string,
    private readonly onChange: () => void,
  ) {}

  /** Decoded bytes that are kept. */
  get bytes(): number {
    return this.#bytes;
  }

  /** Asks for tiles, and those above them that stand in for them. @param picture for which they are wanted */
  want(picture: string, tiles: readonly (readonly [source: PictureFiles, tile: PictureTile])[]): void {
    const wish = new Map<string, PictureTile>();
    // from the coarsest on: there is something to see at once
    for (const [source, tile] of tiles) {
      let top = tile;
      for (let above = pictureParent(top); above; above = pictureParent(top)) top = above;
      wish.set(keyOf(source, top), top);
    }
    for (const [source, tile] of tiles) wish.set(keyOf(source, tile), tile);
    this.#wishes.set(picture, wish);
    for (const key of wish.keys()) {
      const entry = this.#entries.get(key);
      if (entry) entry.usedAt = ++this.#clock;
      else this.#entries.set(key, { key, state: 'awaited', held: null, usedAt: ++this.#clock });
    }
    const wanted = this.#wanted();
    for (const [key, abort] of this.#fetching) if (!wanted.has(key)) abort.abort();
    for (const [key, { state }] of this.#entries)
      if (state === 'awaited' && !wanted.has(key)) this.#entries.delete(key);
    this.#fetchNext();
  }

  leave(picture: string): void {
    this.#wishes.delete(picture);
  }

  /** Whether something that a picture wants is still to come. */
  isBusyFor(picture: string): boolean {
    for (const key of this.#wishes.get(picture)?.keys() ?? [])
      if (this.#entries.get(key)?.state === 'awaited') return true;
    return false;
  }

  /** The tile itself, or the nearest above it that is there. */
  best(source: PictureFiles, tile: PictureTile): HeldTile | null {
    for (let at: PictureTile | null = tile; at; at = pictureParent(at)) {
      const held = this.#entries.get(keyOf(source, at))?.held;
      if (held) return held;
    }
    return null;
  }

  dispose(): void {
    clearTimeout(this.#telling);
    for (const abort of this.#fetching.values()) abort.abort();
    for (const entry of this.#entries.values()) this.#drop(entry);
    this.#entries.clear();
    this.#wishes.clear();
  }

  #wanted(): ReadonlySet<string> {
    return new Set([...this.#wishes.values()].flatMap((wish) => [...wish.keys()]));
  }

  #fetchNext(): void {
    for (const wish of this.#wishes.values())
      for (const [key, tile] of wish) {
        if (this.#fetching.size >= FETCHES) return;
        if (this.#entries.get(key)?.state === 'awaited' && !this.#fetching.has(key)) void this.#fetch(key, tile);
      }
  }

  async #fetch(key: string, tile: PictureTile): Promise<void> {
    const abort = new AbortController();
    this.#fetching.set(key, abort);
    try {
      const response = await fetch(this.base + key, { signal: abort.signal });
      if (!response.ok) throw new Error(`status ${response.status}`);
      const bitmap = await createImageBitmap(await response.blob(), { premultiplyAlpha: 'premultiply' });
      const entry = this.#entries.get(key);
      if (entry) this.#keep(entry, tile, bitmap);
      else bitmap.close();
    } catch (error) {
      const entry = this.#entries.get(key);
      if (abort.signal.aborted) this.#entries.delete(key);
      else {
        console.error(`picture ${key}: ${String(error)}`);
        if (entry) entry.state = 'failed';
        this.#tell();
      }
    } finally {
      this.#fetching.delete(key);
      this.#fetchNext();
    }
  }

  #keep(entry: Entry, tile: PictureTile, bitmap: ImageBitmap): void {
    const texture = new Texture(bitmap);
    texture.colorSpace = NoColorSpace;
    texture.flipY = false;
    texture.generateMipmaps = true;
    texture.minFilter = LinearMipmapLinearFilter;
    texture.magFilter = LinearFilter;
    texture.needsUpdate = true;
    entry.held = { tile, texture, width: bitmap.width, height: bitmap.height };
    entry.state = 'there';
    this.#bytes += BYTES_PER_PX * bitmap.width * bitmap.height;
    this.#evict();
    this.#tell();
  }

  #evict(): void {
    if (this.#bytes <= CACHED_BYTES.pictures) return;
    const wanted = this.#wanted();
    const spare = [...this.#entries.values()].filter(({ key, held }) => held && !wanted.has(key));
    for (const entry of spare.sort((a, b) => a.usedAt - b.usedAt)) {
      if (this.#bytes <= CACHED_BYTES.pictures) return;
      this.#drop(entry);
      this.#entries.delete(entry.key);
    }
  }

  #drop({ held }: Entry): void {
    if (!held) return;
    this.#bytes -= BYTES_PER_PX * held.width * held.height;
    held.texture.dispose();
    (held.texture.image as ImageBitmap).close();
  }

  #tell(): void {
    this.#telling ??= setTimeout(() => {
      this.#telling = undefined;
      this.version++;
      this.onChange();
    }, TELL_AFTER_MS);
  }
}
