import { describe, expect, it } from 'vitest';
import { TileCache, type FromLoader, type Loader, type ToLoader } from './tile-cache';
import { buffersOf, type TileContent } from './tile-content';

const content = (bytes: number): TileContent => ({
  positions: new Float32Array(bytes / 4),
  styles: new Uint16Array(0),
  along: new Float32Array(0),
  lines: new Uint32Array(0),
  lineRuns: [],
  triangles: new Uint32Array(0),
  triangleRuns: [],
  objects: new Uint32Array(0),
  texts: [],
  standIns: { positions: new Float32Array(0), styles: new Uint16Array(0), objects: new Uint32Array(0), pieces: [] },
});

function make(maxBytes = 1000) {
  const asked: ToLoader[] = [];
  const events: string[] = [];
  const clock = { nowMs: 0 };
  const loader: Loader<ToLoader, FromLoader<TileContent>> = {
    postMessage: (message) => asked.push(message),
    onmessage: null,
    terminate: () => events.push('closed'),
  };
  const cache = new TileCache({
    urlOf: (tile) => `/${tile}.glb`,
    loader,
    maxBytes,
    buffersOf,
    onLoaded: (tile) => events.push(`loaded ${tile}`),
    onEvicted: (tile) => events.push(`evicted ${tile}`),
    onFailed: (tile) => events.push(`failed ${tile}`),
    now: () => clock.nowMs,
  });
  const answer = (data: FromLoader<TileContent>): void =>
    loader.onmessage!({ data } as MessageEvent<FromLoader<TileContent>>);
  const load = (tile: number, bytes = 100): void => answer({ kind: 'loaded', tile, content: content(bytes) });
  const fail = (tile: number, dropped = false): void => answer({ kind: 'failed', tile, reason: 'gone', dropped });
  const loads = (): number[] => asked.flatMap((message) => (message.kind === 'load' ? [message.tile] : []));
  return { cache, asked, events, load, fail, loads, clock };
}

describe('the tile cache', () => {
  it('asks for the best first, a few at a time, and goes on as they come', () => {
    const { cache, loads, load } = make();
    cache.want(Array.from({ length: 20 }, (_, tile) => tile));
    expect(loads()).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    load(0);
    expect(loads().at(-1)).toBe(8);
    expect(cache.get(0)).toBeDefined();
    expect([cache.isAwaited(0), cache.isAwaited(19)]).toEqual([false, true]);
  });

  it('drops requests that are out of sight', () => {
    const { cache, asked, fail, events } = make();
    cache.want([1, 2]);
    cache.want([2]);
    expect(asked.filter(({ kind }) => kind === 'drop')).toEqual([{ kind: 'drop', tile: 1 }]);
    fail(1, true);
    expect(events).toEqual([]);
    expect(cache.isAwaited(1)).toBe(true); // it may be wanted again
  });

  it('gives up what was not wanted for longest when it holds too much, never what is wanted', () => {
    const { cache, load, events } = make(250);
    cache.want([1, 2]);
    load(1);
    load(2);
    cache.want([1]); // 2 is now the one left alone, 1 the one used last
    cache.want([1, 3]);
    load(3);
    cache.want([1, 3]);
    expect(events).toContain('evicted 2');
    expect(cache.get(1)).toBeDefined();
    expect(cache.bytes).toBe(200);
  });

  it('tries again, then says that a tile can’t be had', () => {
    const { cache, load, fail, events, loads, clock } = make();
    cache.want([5]);
    fail(5);
    fail(5);
    expect(loads()).toEqual([5, 5, 5]);
    fail(5);
    expect(events).toEqual(['failed 5']);
    cache.want([5]);
    expect(cache.isAwaited(5)).toBe(false);
    clock.nowMs = 6000; // the server may be back
    cache.want([5]);
    expect(cache.isAwaited(5)).toBe(true);
    load(5);
    expect(cache.get(5)).toBeDefined();
    expect(cache.isAwaited(5)).toBe(false);
  });

  it('lets go of everything at the end', () => {
    const { cache, load, events } = make();
    cache.want([1]);
    load(1);
    cache.close();
    expect(events).toEqual(['loaded 1', 'closed', 'evicted 1']);
  });
});
