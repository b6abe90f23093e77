import { expect, it, vi } from 'vitest';
import type { FineContent } from './tile-content';
import { Refiner } from './refiner';
import type { TileLoader } from './tile-cache';
import type { FromTileWorker, RefineOrder, ToTileWorker } from './tile-worker';

function make() {
  const sent: ToTileWorker[] = [];
  const refined: [number, number | null][] = [];
  const loader: TileLoader = {
    postMessage: (message) => sent.push(message),
    onmessage: null,
    terminate: () => undefined,
  };
  const refiner = new Refiner(loader, (tile, fine) => refined.push([tile, fine?.chordError ?? null]));
  const answer = (data: FromTileWorker): void => loader.onmessage!({ data } as MessageEvent<FromTileWorker>);
  return { refiner, sent, refined, answer };
}
const order = (chordError: number, tile = 4): RefineOrder => ({
  kind: 'refine',
  tile,
  url: '/4.detail',
  chordError,
  region: null,
});
const lines = {} as FineContent;

it('has one order a tile under way; of those that come meanwhile the last counts', () => {
  const { refiner, sent, refined, answer } = make();
  for (const error of [8, 8, 4, 2]) refiner.order(order(error));
  expect(sent).toEqual([order(8)]);
  expect(refiner.isBusyWith(4)).toBe(true);
  answer({ kind: 'refined', order: order(8), lines });
  expect(sent).toEqual([order(8), order(2)]);
  answer({ kind: 'refined', order: order(2), lines });
  expect(refined).toEqual([
    [4, 8],
    [4, 2],
  ]);
  expect(refiner.isBusyWith(4)).toBe(false);
});

it('does not wait for a detail that can’t be had', () => {
  const told = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  const { refiner, sent, refined, answer } = make();
  refiner.order(order(8));
  answer({ kind: 'notRefined', order: order(8), reason: 'status 404' });
  refiner.order(order(4));
  expect(sent).toHaveLength(1);
  expect(refined).toEqual([[4, null]]);
  expect(refiner.isBusyWith(4)).toBe(false);
  expect(told).toHaveBeenCalledOnce();
  told.mockRestore();
});
