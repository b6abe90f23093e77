import { expect, it, vi } from 'vitest';
import type { FineContent } from './tile-content';
import { Refiner } from './refiner';
import type { TileLoader } from './tile-cache';
import type { FromTileWorker, RefineOrder, TilePart, ToTileWorker } from './tile-worker';

function make() {
  const sent: ToTileWorker[] = [];
  const refined: [number, number | null][] = [];
  const loader: TileLoader = {
    postMessage: (message) => sent.push(message),
    onmessage: null,
    terminate: () => undefined,
  };
  const refiner = new Refiner(loader, ({ tile, chordError }, content) => refined.push([tile, content && chordError]));
  const answer = (data: FromTileWorker): void => loader.onmessage!({ data } as MessageEvent<FromTileWorker>);
  return { refiner, sent, refined, answer };
}
const order = (chordError: number, part: TilePart = 'lines', tile = 4): RefineOrder => ({
  kind: 'refine',
  pane: '1',
  part,
  tile,
  url: '/4.detail',
  chordError,
  region: null,
});
const content = {} as FineContent;
const lines = { pane: '1', part: 'lines', tile: 4 } as const;

it('has one order a tile under way; of those that come meanwhile the last counts', () => {
  const { refiner, sent, refined, answer } = make();
  for (const error of [8, 8, 4, 2]) refiner.order(order(error));
  expect(sent).toEqual([order(8)]);
  expect(refiner.isBusyWith(lines)).toBe(true);
  answer({ kind: 'refined', order: order(8), content });
  expect(sent).toEqual([order(8), order(2)]);
  answer({ kind: 'refined', order: order(2), content });
  expect(refined).toEqual([
    [4, 8],
    [4, 2],
  ]);
  expect(refiner.isBusyWith(lines)).toBe(false);
});

it('does not wait for a detail that can’t be had', () => {
  const told = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  const { refiner, sent, refined, answer } = make();
  refiner.order(order(8));
  answer({ kind: 'notRefined', order: order(8), reason: 'status 404' });
  refiner.order(order(4));
  expect(sent).toHaveLength(1);
  expect(refined).toEqual([[4, null]]);
  expect(refiner.isBusyWith(lines)).toBe(false);
  expect(told).toHaveBeenCalledOnce();
  told.mockRestore();
});

it('makes lines and areas of a tile beside one another', () => {
  const { refiner, sent, answer } = make();
  refiner.order(order(8));
  refiner.order(order(8, 'fills'));
  expect(sent).toEqual([order(8), order(8, 'fills')]);
  answer({ kind: 'refined', order: order(8), content });
  expect(refiner.isBusyWith(lines)).toBe(false);
  expect(refiner.isBusyWith({ ...lines, part: 'fills' })).toBe(true);
});

it('makes a tile’s lines for each pane, since each looks at another scale', () => {
  const { refiner, sent, answer } = make();
  const [one, other] = [order(8), { ...order(2), pane: '2' }];
  refiner.order(one);
  refiner.order(other);
  expect(sent).toEqual([one, other]);
  answer({ kind: 'refined', order: other, content });
  expect(refiner.isBusyWith(lines)).toBe(true);
  expect(refiner.isBusyWith({ ...lines, pane: '2' })).toBe(false);
});
