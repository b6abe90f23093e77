/** Fetches, decodes and refines tiles off the page's thread. */
import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { decodeDetail, refine, type DetailItem } from '@gull-pane/core/pyramid/detail';
import { decodeTile } from '@gull-pane/core/pyramid/tile-format';
import { snapNear, type Snap } from '@gull-pane/core/snap/snap';
import { SnapIndex } from '@gull-pane/core/snap/snap-index';
import { arrangeFine, arrangeTile, buffersOf, type FineContent, type TileContent } from './tile-content';

export type ToTileWorker =
  | { readonly kind: 'load'; readonly tile: number; readonly url: string }
  | { readonly kind: 'drop'; readonly tile: number }
  | RefineOrder
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

/** Asks for the exact form of a tile's coarse lines. */
export interface RefineOrder {
  readonly kind: 'refine';
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
  | { readonly kind: 'refined'; readonly order: RefineOrder; readonly lines: FineContent }
  | { readonly kind: 'notRefined'; readonly order: RefineOrder; readonly reason: string }
  | { readonly kind: 'snapped'; readonly id: number; readonly snap: Snap | null };

/** Details that are kept for the next scale, the last used last. */
const KEPT_DETAILS = 64;

const loading = new Map<number, AbortController>();
const details = new Map<number, Promise<DetailItem[]>>();
const snapIndexes = new Map<number, Promise<SnapIndex>>();
const say = (message: FromTileWorker, transfer: ArrayBuffer[] = []): void => self.postMessage(message, { transfer });

self.onmessage = (event: MessageEvent<ToTileWorker>): void => {
  const message = event.data;
  if (message.kind === 'drop') loading.get(message.tile)?.abort();
  else if (message.kind === 'load') void load(message.tile, message.url);
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
  const { tile, url, chordError, region } = order;
  try {
    const known = details.get(tile) ?? bytesAt(url).then(decodeDetail);
    details.delete(tile);
    details.set(tile, known);
    const lines = arrangeFine(refine(await known, chordError, region ?? undefined));
    const { positions, low, styles, along, objects } = lines;
    const buffers = [positions, low, styles, along, lines.lines, objects].map(({ buffer }) => buffer);
    say({ kind: 'refined', order, lines }, buffers);
    const [oldest] = details.keys();
    if (details.size > KEPT_DETAILS && oldest !== undefined) details.delete(oldest);
  } catch (error) {
    details.delete(tile);
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
        return (await index).near(at, radius, (style) => !isHidden.has(style));
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
