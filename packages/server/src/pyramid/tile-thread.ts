/** Makes parts of a pyramid in a thread of its own, one after the other, as long as there are some. */
import { parentPort, workerData } from 'node:worker_threads';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { ItemTable, type ItemColumns } from '@gull-pane/core/pyramid/items';
import { TileMaker, type NamedTile, type TileOrder, type WrittenTile } from './tile-maker.ts';

/** A tile with all below it. */
export interface TileShare {
  readonly tile: NamedTile;
  readonly parentOrigin: Vec2;
}

export interface TileThreadOrder {
  readonly columns: ItemColumns;
  readonly order: TileOrder;
  readonly shares: readonly TileShare[];
  /** How many parts are taken, in shared memory. */
  readonly taken: Int32Array;
}

export type FromTileThread =
  | { readonly kind: 'tile' }
  | { readonly kind: 'share'; readonly share: number; readonly written: WrittenTile };

const { columns, order, shares, taken } = workerData as TileThreadOrder;
const say = (message: FromTileThread): void => parentPort!.postMessage(message);
const maker = new TileMaker(new ItemTable(columns), order, () => say({ kind: 'tile' }));
for (let share = Atomics.add(taken, 0, 1); share < shares.length; share = Atomics.add(taken, 0, 1)) {
  const { tile, parentOrigin } = shares[share]!;
  say({ kind: 'share', share, written: await maker.makeAll(tile, parentOrigin) });
}
await maker.finish();
