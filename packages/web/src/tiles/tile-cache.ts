import type { TileContent } from './tile-content';
import type { FromTileWorker, ToTileWorker } from './tile-worker';

/** What a worker that only loads is told, and what it answers. */
export type ToLoader =
  | { readonly kind: 'load'; readonly tile: number; readonly url: string }
  | { readonly kind: 'drop'; readonly tile: number };
export type FromLoader<Content> =
  | { readonly kind: 'loaded'; readonly tile: number; readonly content: Content }
  | { readonly kind: 'failed'; readonly tile: number; readonly reason: string; readonly dropped: boolean };

/** A worker as its user sees it; tests bring their own. */
export interface Loader<To, From> {
  postMessage(message: To): void;
  onmessage: ((event: MessageEvent<From>) => void) | null;
  terminate(): void;
}
export type TileLoader = Loader<ToTileWorker, FromTileWorker>;

export interface TileCacheOptions<Content = TileContent> {
  readonly urlOf: (tile: number) => string;
  readonly loader: Loader<ToLoader, FromLoader<Content>>;
  /** Memory that a tile takes. */
  readonly buffersOf: (content: Content) => readonly { readonly byteLength: number }[];
  /** Decoded bytes that may be kept. */
  readonly maxBytes: number;
  readonly onLoaded: (tile: number, content: Content) => void;
  /** The tile's content is given up: whoever made something of it lets go. */
  readonly onEvicted: (tile: number) => void;
  /** A tile can't be had; it is asked for again when it is wanted some seconds later. */
  readonly onFailed: (tile: number, reason: string) => void;
  /** One steady clock, ms. */
  readonly now: () => number;
}

/** Requests at the same time: enough to keep the line busy, few enough that the best tiles come first. */
const MAX_IN_FLIGHT = 8;
const MAX_ATTEMPTS = 3;
/** A tile that could not be had is left alone for so long: the server may be back by then. */
const RETRY_AFTER_MS = 5000;

/** Decoded tiles under a budget of bytes: asks for what is wanted, best first, drops what is no longer wanted. */
export class TileCache<Content = TileContent> {
  /** In order of last use: the first is given up first. */
  readonly #ready = new Map<number, { content: Content; bytes: number }>();
  readonly #inFlight = new Set<number>();
  readonly #attempts = new Map<number, number>();
  readonly #givenUpMs = new Map<number, number>();
  #wanted: readonly number[] = [];
  #bytes = 0;

  constructor(private readonly options: TileCacheOptions<Content>) {
    options.loader.onmessage = ({ data }) => this.#receive(data);
  }

  /** Whether a tile is still to come: neither there nor given up. */
  isAwaited(tile: number): boolean {
    return !this.#ready.has(tile) && !this.#isHopeless(tile);
  }

  get bytes(): number {
    return this.#bytes;
  }

  get(tile: number): Content | undefined {
    return this.#ready.get(tile)?.content;
  }

  /** @param tiles what shall be shown, best first */
  want(tiles: readonly number[]): void {
    this.#wanted = tiles;
    const isWanted = new Set(tiles);
    this.#forgetFailures();
    for (const tile of this.#inFlight) if (!isWanted.has(tile)) this.options.loader.postMessage({ kind: 'drop', tile });
    for (const tile of tiles) {
      const entry = this.#ready.get(tile);
      if (!entry) continue;
      this.#ready.delete(tile);
      this.#ready.set(tile, entry);
    }
    this.#request();
    this.#evict(isWanted);
  }

  close(): void {
    this.options.loader.terminate();
    for (const tile of this.#ready.keys()) this.options.onEvicted(tile);
    this.#ready.clear();
    this.#wanted = [];
  }

  #isHopeless(tile: number): boolean {
    return (this.#attempts.get(tile) ?? 0) >= MAX_ATTEMPTS;
  }

  #forgetFailures(): void {
    for (const [tile, sinceMs] of this.#givenUpMs) {
      if (this.options.now() - sinceMs < RETRY_AFTER_MS) continue;
      this.#givenUpMs.delete(tile);
      this.#attempts.delete(tile);
    }
  }

  #request(): void {
    for (const tile of this.#wanted) {
      if (this.#inFlight.size >= MAX_IN_FLIGHT) return;
      if (this.#ready.has(tile) || this.#inFlight.has(tile) || this.#isHopeless(tile)) continue;
      this.#inFlight.add(tile);
      this.options.loader.postMessage({ kind: 'load', tile, url: this.options.urlOf(tile) });
    }
  }

  #receive(message: FromLoader<Content>): void {
    const { tile } = message;
    this.#inFlight.delete(tile);
    if (message.kind === 'loaded') {
      const bytes = this.options.buffersOf(message.content).reduce((sum, { byteLength }) => sum + byteLength, 0);
      this.#ready.set(tile, { content: message.content, bytes });
      this.#bytes += bytes;
      this.options.onLoaded(tile, message.content);
    } else if (!message.dropped) {
      this.#attempts.set(tile, (this.#attempts.get(tile) ?? 0) + 1);
      if (this.#isHopeless(tile)) {
        this.#givenUpMs.set(tile, this.options.now());
        this.options.onFailed(tile, message.reason);
      }
    }
    this.#request();
  }

  #evict(isWanted: ReadonlySet<number>): void {
    for (const [tile, { bytes }] of this.#ready) {
      if (this.#bytes <= this.options.maxBytes) return;
      if (isWanted.has(tile)) continue;
      this.#ready.delete(tile);
      this.#bytes -= bytes;
      this.options.onEvicted(tile);
    }
  }
}
