import { expect, it } from 'vitest';
import { PackCache } from './pack-cache';

const tile = 'https://works.example/tiles/r1/7.glb';

/** Packs of 1,000 bytes; some can't be had at first. */
function make(mostBytes: number) {
  const asked: string[] = [];
  const gone = new Set<string>();
  const cache = new PackCache((url) => {
    asked.push(url.slice(url.lastIndexOf('/') + 1));
    return gone.has(url) ? Promise.reject(new Error('status 503')) : Promise.resolve(new Uint8Array(1000));
  }, mostBytes);
  return { cache, asked, gone };
}

it('a pack is fetched once for many tiles, even when they ask at the same time', async () => {
  const { cache, asked } = make(10_000);
  const [one, other] = await Promise.all([cache.of(tile, ['a.bin', 'b.bin']), cache.of(tile, ['b.bin', 'c.bin'])]);
  expect([...one.keys()]).toEqual(['a.bin', 'b.bin']);
  expect(one.get('b.bin')).toBe(other.get('b.bin'));
  await cache.of('https://works.example/tiles/r1/9.glb', ['a.bin', 'c.bin']);
  expect(asked).toEqual(['a.bin', 'b.bin', 'c.bin']);
});

it('those used longest ago give way, but what a tile needs at once is there', async () => {
  const { cache, asked } = make(2500);
  await cache.of(tile, ['a.bin', 'b.bin']);
  await cache.of(tile, ['a.bin']);
  await cache.of(tile, ['c.bin']);
  await cache.of(tile, ['a.bin', 'c.bin']);
  expect(asked).toEqual(['a.bin', 'b.bin', 'c.bin']);
  const all = await cache.of(tile, ['a.bin', 'b.bin', 'c.bin', 'd.bin']);
  expect(all.size).toBe(4);
  expect(asked).toEqual(['a.bin', 'b.bin', 'c.bin', 'b.bin', 'd.bin']);
});

it('what failed is tried again for the next tile', async () => {
  const { cache, asked, gone } = make(10_000);
  gone.add('https://works.example/tiles/r1/a.bin');
  await expect(cache.of(tile, ['a.bin'])).rejects.toThrow('503');
  gone.clear();
  await cache.of(tile, ['a.bin']);
  expect(asked).toEqual(['a.bin', 'a.bin']);
});
