/** Fetches, decodes and refines tiles off the page's thread. */
import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { decodeDetail, refine, type DetailItem } from '@gull-pane/core/pyramid/detail';
import { refineFills, type RefinedFills } from '@gull-pane/core/pyramid/refine-fills';
import { decodeTile } from '@gull-pane/core/pyramid/tile-format';
import { snapNear, type Snap } from '@gull-pane/core/snap/snap';
import { SnapIndex } from '@gull-pane/core/snap/snap-index';
import { arrangeFine, arrangeTile, buffersOf, numbersOf, type FineContent, type TileContent } from './tile-content';

export type ToTileWorker =
  | { readonly kind: 'load'; readonly tile: number; readonly url: string }
  | { readonly kind: 'drop'; readonly tile: number }
  | RefineOrder
  /** Objects that nothing is drawn to: a byte each, 0 if it is shown. */
  | { readonly kind: 'hideObjects'; readonly bytes: Uint8Array | null }
  | SnapOrder;

/** Asks what a point is drawn to. Drawing coordinates. */
export interface SnapOrder {
  readonly kind: 'snap';
  readonly id: number;
  readonly at: Vec2;
  readonly radius: number;
  /** The tiles that are shown there. */
  readonly tiles: readonly { readonly tile: number; readonly url: string; readonly origin: Vec2 }[];
  /** Styles that are not shown. */
  readonly hidden: readonly number[];
}

/** What of a tile has an exact form. */
export type TilePart = 'lines' | 'fills';

/** Asks for the exact form of a tile's coarse lines or areas. */
export interface RefineOrder {
  readonly kind: 'refine';
  /** For whom. */
  readonly pane: string;
  readonly part: TilePart;
  readonly tile: number;
  readonly url: string;
  /** Drawing units. */
  readonly chordError: number;
  /** What is near the view, relative to the tile's origin; everything if null. */
  readonly region: Box2 | null;
}

export type FromTileWorker =
  | { readonly kind: 'loaded'; readonly tile: number; readonly content: TileContent }
  | { readonly kind: 'failed'; readonly tile: number; readonly reason: string; readonly dropped: boolean }
  | { readonly kind: 'refined'; readonly order: RefineOrder; readonly content: FineContent | RefinedFills }
  | { readonly kind: 'notRefined'; readonly order: RefineOrder; readonly reason: string }
  | { readonly kind: 'snapped'; readonly id: number; readonly snap: Snap | null };

/** Details that are kept for the next scale, the last used last. */
const KEPT_DETAILS = 64;

const loading = new Map<number, AbortController>();
/** By address. */
const details = new Map<string, Promise<DetailItem[]>>();
let hiddenObjects: Uint8Array | null = null;
const snapIndexes = new Map<number, Promise<SnapIndex>>();
const say = (message: FromTileWorker, transfer: ArrayBuffer[] = []): void => self.postMessage(message, { transfer });

self.onmessage = (event: MessageEvent<ToTileWorker>): void => {
  const message = event.data;
  if (message.kind === 'drop') loading.get(message.tile)?.abort();
  else if (message.kind === 'load') void load(message.tile, message.url);
  else if (message.kind === 'hideObjects') hiddenObjects = message.bytes;
  else if (message.kind === 'snap') void snapAt(message);
  else void refineTile(message);
};

async function bytesAt(url: string, signal?: AbortSignal): Promise<Uint8Array> {
  const response = await fetch(url, signal ? { signal } : {});
  if (!response.ok) throw new Error(`status ${response.status}`);
  return new Uint8Array(await response.arrayBuffer());
}

async function load(tile: number, url: string): Promise<void> {
  const abort = new AbortController();
  loading.set(tile, abort);
  try {
    const content = arrangeTile(decodeTile(await bytesAt(url, abort.signal)));
    say({ kind: 'loaded', tile, content }, buffersOf(content));
  } catch (error) {
    say({ kind: 'failed', tile, reason: String(error), dropped: abort.signal.aborted });
  } finally {
    loading.delete(tile);
  }
}

async function refineTile(order: RefineOrder): Promise<void> {
  const { part, url, chordError, region } = order;
  try {
    const known = details.get(url) ?? bytesAt(url).then(decodeDetail);
    details.delete(url);
    details.set(url, known);
    const items = await known;
    const content =
      part === 'lines'
        ? arrangeFine(refine(items, chordError, region ?? undefined))
        : refineFills(items, chordError, region ?? undefined);
    say({ kind: 'refined', order, content }, numbersOf(content));
    const [oldest] = details.keys();
    if (details.size > KEPT_DETAILS && oldest !== undefined) details.delete(oldest);
  } catch (error) {
    details.delete(url);
    say({ kind: 'notRefined', order, reason: String(error) });
  }
}

async function snapAt({ id, at, radius, tiles, hidden }: SnapOrder): Promise<void> {
  const isHidden = new Set(hidden);
  const lists = await Promise.all(
    tiles.map(async ({ tile, url, origin }) => {
      const index = snapIndexes.get(tile) ?? bytesAt(url).then((bytes) => new SnapIndex(decodeDetail(bytes), origin));
      snapIndexes.delete(tile);
      snapIndexes.set(tile, index);
      try {
        return (await index).near(at, radius, ({ style, object }) => !isHidden.has(style) && !hiddenObjects?.[object]);
      } catch {
        snapIndexes.delete(tile); // asked for again with the next move
        return [];
      }
    }),
  );
  say({ kind: 'snapped', id, snap: snapNear(lists.flat(), at, radius) });
  for (const oldest of snapIndexes.keys()) {
    if (snapIndexes.size <= KEPT_DETAILS) break;
    snapIndexes.delete(oldest);
  }
}
