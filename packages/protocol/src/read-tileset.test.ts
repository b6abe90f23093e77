import { expect, it } from 'vitest';
import type { TileJson, TilesetJson } from './tileset.ts';
import { readTileset } from './read-tileset.ts';

const shift = (x: number, y: number): number[] => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, 0, 1];
const tile = (x: number, y: number, uri: string, children: TileJson[] = []): TileJson => ({
  transform: shift(x, y),
  boundingVolume: { box: [1, 2, 0, 50, 0, 0, 0, 40, 0, 0, 0, 0] },
  geometricError: 7,
  content: { uri },
  children,
  extras: { segments: 5, triangles: 2, texts: 1, largest: 9, detail: `${uri}.detail`, tolerance: 3 },
});
const tileset = (top?: TileJson): TilesetJson => ({
  asset: { version: '1.1', generator: 'Gull Pane' },
  geometricError: 1,
  extras: { styles: [] },
  root: { boundingVolume: { box: [] }, geometricError: 1, refine: 'ADD', ...(top ? { children: [top] } : {}) },
});

it('puts tiles one after another, shifts added up without rounding, scale to metres left out', () => {
  const { tiles } = readTileset(
    tileset(
      tile(412_596_224, 7_208_380_416, 'a', [tile(-124_928, -16_384, 'b'), tile(8, 16, 'c', [tile(0.5, 0, 'd')])]),
    ),
  );
  expect(tiles.map(({ uri, children }) => [uri, children])).toEqual([
    ['a', [1, 2]],
    ['b', []],
    ['c', [3]],
    ['d', []],
  ]);
  expect(tiles[1]!.origin).toEqual({ x: 412_471_296, y: 7_208_364_032, z: 0 });
  expect(tiles[3]).toMatchObject({
    centre: { x: 412_596_233.5, y: 7_208_380_434, z: 0 },
    halfSize: { x: 50, y: 40, z: 0 },
    weight: 7,
    texts: 1,
    detail: 'd.detail',
    tolerance: 3,
  });
});

it('refuses a tileset that isn’t ours', () => {
  expect(() => readTileset(tileset())).toThrow(RangeError);
});
