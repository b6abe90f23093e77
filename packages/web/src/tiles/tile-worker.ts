/** Fetches, decodes and refines tiles off the page's thread. */
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { decodeDetail, refine, type DetailItem } from '@gull-pane/core/pyramid/detail';
import { refineFills, type RefinedFills } from '@gull-pane/core/pyramid/refine-fills';
import { decodeTile } from '@gull-pane/core/pyramid/decode-tile';
import { arrangeFine, arrangeTile, buffersOf, numbersOf, type FineContent, type TileContent } from './tile-content';

export type ToTileWorker =
  | { readonly kind: 'load'; readonly tile: number; readonly url: string }
  | { readonly kind: 'drop'; readonly tile: number }
  | RefineOrder;

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
  | { readonly kind: 'notRefined'; readonly order: RefineOrder; readonly reason: string };

/** Details that are kept for the next scale, the last used last. */
const KEPT_DETAILS = 64;

const loading = new Map<number, AbortController>();
/** By address. */
const details = new Map<string, Promise<DetailItem[]>>();
const say = (message: FromTileWorker, transfer: ArrayBuffer[] = []): void => self.postMessage(message, { transfer });

self.onmessage = (event: MessageEvent<ToTileWorker>): void => {
  const message = event.data;
  if (message.kind === 'drop') loading.get(message.tile)?.abort();
  else if (message.kind === 'load') void load(message.tile, message.url);
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
