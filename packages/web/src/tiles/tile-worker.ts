/** Fetches and decodes tiles off the page's thread. */
import { decodeTile, type DecodedTile } from '@gull-pane/core/pyramid/tile-format';

export type ToTileWorker =
  | { readonly kind: 'load'; readonly tile: number; readonly url: string }
  | { readonly kind: 'drop'; readonly tile: number };

export type FromTileWorker =
  | { readonly kind: 'loaded'; readonly tile: number; readonly content: DecodedTile }
  | { readonly kind: 'failed'; readonly tile: number; readonly reason: string; readonly dropped: boolean };

const loading = new Map<number, AbortController>();

self.onmessage = (event: MessageEvent<ToTileWorker>): void => {
  const message = event.data;
  if (message.kind === 'drop') loading.get(message.tile)?.abort();
  else void load(message.tile, message.url);
};

async function load(tile: number, url: string): Promise<void> {
  const abort = new AbortController();
  loading.set(tile, abort);
  try {
    const response = await fetch(url, { signal: abort.signal });
    if (!response.ok) throw new Error(`status ${response.status}`);
    const content = decodeTile(new Uint8Array(await response.arrayBuffer()));
    const { positions, low, styles, along, lines, triangles, objects } = content;
    const message: FromTileWorker = { kind: 'loaded', tile, content };
    self.postMessage(message, {
      transfer: [positions, low, styles, along, lines, triangles, objects].map(({ buffer }) => buffer),
    });
  } catch (error) {
    const message: FromTileWorker = { kind: 'failed', tile, reason: String(error), dropped: abort.signal.aborted };
    self.postMessage(message);
  } finally {
    loading.delete(tile);
  }
}
