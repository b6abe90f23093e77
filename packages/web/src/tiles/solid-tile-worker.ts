/** Fetches and decodes tiles of solids off the page's thread. */
import { openSolidTile } from '@gull-pane/core/solid/solid-tile';
import { arrangeSolidTile, buffersOfSolid, type SolidTileContent } from './solid-tile-content';
import { PackCache } from './pack-cache';
import type { FromLoader, ToLoader } from './tile-cache';

const packs = new PackCache(bytesAt);
const loading = new Map<number, AbortController>();
const say = (message: FromLoader<SolidTileContent>, transfer: ArrayBuffer[] = []): void =>
  self.postMessage(message, { transfer });

self.onmessage = ({ data }: MessageEvent<ToLoader>): void => {
  if (data.kind === 'drop') loading.get(data.tile)?.abort();
  else void load(data.tile, data.url);
};

async function load(tile: number, url: string): Promise<void> {
  const abort = new AbortController();
  loading.set(tile, abort);
  try {
    const opened = openSolidTile(await bytesAt(url, abort.signal));
    const content = arrangeSolidTile(opened.decode(await packs.of(url, opened.packs)));
    say({ kind: 'loaded', tile, content }, buffersOfSolid(content));
  } catch (error) {
    say({ kind: 'failed', tile, reason: String(error), dropped: abort.signal.aborted });
  } finally {
    loading.delete(tile);
  }
}

async function bytesAt(url: string, signal?: AbortSignal): Promise<Uint8Array> {
  const response = await fetch(url, signal ? { signal } : {});
  if (!response.ok) throw new Error(`status ${response.status}`);
  return new Uint8Array(await response.arrayBuffer());
}
