import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { FineContent } from './tile-content';
import type { RefineOrder } from './tile-worker';
import type { TileLoader } from './tile-cache';

export interface FineLines {
  readonly lines: FineContent;
  /** Drawing units. */
  readonly chordError: number;
  /** Where the lines are that fine, relative to the tile's origin; everywhere if null. */
  readonly region: Box2 | null;
}

/** Gets the exact form of coarse lines from a worker: one order a tile at a time, the last wish wins. */
export class Refiner {
  readonly #running = new Map<number, RefineOrder>();
  readonly #next = new Map<number, RefineOrder>();
  readonly #hopeless = new Set<number>();

  constructor(
    private readonly worker: TileLoader,
    private readonly onRefined: (tile: number, fine: FineLines | null) => void,
  ) {
    worker.onmessage = ({ data }) => {
      if (data.kind !== 'refined' && data.kind !== 'notRefined') return;
      const { tile, chordError, region } = data.order;
      this.#running.delete(tile);
      if (data.kind === 'notRefined') {
        console.error(`detail of tile ${tile}: ${data.reason}`);
        this.#hopeless.add(tile);
      }
      const next = this.#next.get(tile);
      this.#next.delete(tile);
      if (next) this.#start(next);
      this.onRefined(tile, data.kind === 'refined' ? { lines: data.lines, chordError, region } : null);
    };
  }

  /** Whether something is being made for a tile. */
  isBusyWith(tile: number): boolean {
    return this.#running.has(tile);
  }

  order(order: RefineOrder): void {
    if (this.#hopeless.has(order.tile)) return;
    const running = this.#running.get(order.tile);
    if (!running) this.#start(order);
    else if (running.chordError !== order.chordError || !sameBox(running.region, order.region))
      this.#next.set(order.tile, order);
  }

  close(): void {
    this.worker.terminate();
  }

  #start(order: RefineOrder): void {
    this.#running.set(order.tile, order);
    this.worker.postMessage(order);
  }
}

const sameBox = (a: Box2 | null, b: Box2 | null): boolean =>
  a === b ||
  (a !== null && b !== null && a.minX === b.minX && a.minY === b.minY && a.maxX === b.maxX && a.maxY === b.maxY);
