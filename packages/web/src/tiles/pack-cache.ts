import { ShapePack } from '@gull-pane/core/solid/packed-shape';

/** Packs that are kept for the next tile, bytes. */
const KEPT_BYTES = 32 * 1024 * 1024;

/** The packs of shapes that tiles need: each is fetched once, those used last are kept. */
export class PackCache {
  /** By address, the last used last. */
  readonly #packs = new Map<string, Promise<ShapePack>>();
  #bytes = 0;

  constructor(
    private readonly bytesAt: (url: string) => Promise<Uint8Array>,
    private readonly mostBytes = KEPT_BYTES,
  ) {}

  /** @param url of the tile, beside which its packs lie @param names of the packs */
  async of(url: string, names: readonly string[]): Promise<ReadonlyMap<string, ShapePack>> {
    const packs = await Promise.all(names.map((name) => this.#pack(new URL(name, url).href)));
    return new Map(names.map((name, i) => [name, packs[i]!]));
  }

  async #pack(url: string): Promise<ShapePack> {
    const known = this.#packs.get(url);
    const pack = known ?? this.bytesAt(url).then((bytes) => new ShapePack(bytes));
    this.#packs.delete(url);
    this.#packs.set(url, pack);
    try {
      const { byteLength } = await pack;
      if (!known) await this.#makeRoom(byteLength);
    } catch (error) {
      // the next tile may be luckier
      if (this.#packs.get(url) === pack) this.#packs.delete(url);
      throw error;
    }
    return pack;
  }

  /** Drops those that were used longest ago. */
  async #makeRoom(more: number): Promise<void> {
    this.#bytes += more;
    for (const [url, pack] of this.#packs) {
      if (this.#bytes <= this.mostBytes || this.#packs.size === 1) return;
      this.#packs.delete(url);
      this.#bytes -= (await pack.catch(() => null))?.byteLength ?? 0;
    }
  }
}
