import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { RefinedFills } from '@gull-pane/core/pyramid/refine-fills';
import type { FineContent } from './tile-content';
import type { RefineOrder } from './tile-worker';
import type { TileLoader } from './tile-cache';

/** An exact form and for what it is good. */
export interface Fine<T> {
  readonly content: T;
  /** Drawing units. */
  readonly chordError: number;
  /** Where it is that fine, relative to the tile's origin; everywhere if null. */
  readonly region: Box2 | null;
}
export type FineLines = Fine<FineContent>;

/** Each pane has its own exact form of a part. */
type Ordered = Pick<RefineOrder, 'pane' | 'part' | 'tile'>;
const keyOf = ({ pane, part, tile }: Ordered): string => `${pane} ${part} ${tile}`;

/** Gets the exact form of coarse lines and areas from a worker: one order a part at a time, the last wish wins. */
export class Refiner {
  readonly #running = new Map<string, RefineOrder>();
  readonly #next = new Map<string, RefineOrder>();
  readonly #hopeless = new Set<string>();

  constructor(
    private readonly worker: TileLoader,
    private readonly onRefined: (order: RefineOrder, content: FineContent | RefinedFills | null) => void,
  ) {
    worker.onmessage = ({ data }) => {
      if (data.kind !== 'refined' && data.kind !== 'notRefined') return;
      const { order } = data;
      const key = keyOf(order);
      this.#running.delete(key);
      if (data.kind === 'notRefined') {
        console.error(`exact ${order.part} of tile ${order.tile}: ${data.reason}`);
        this.#hopeless.add(key);
      }
      const next = this.#next.get(key);
      this.#next.delete(key);
      if (next) this.#start(next);
      this.onRefined(order, data.kind === 'refined' ? data.content : null);
    };
  }

  /** Whether something is being made for a part of a tile. */
  isBusyWith(ordered: Ordered): boolean {
    return this.#running.has(keyOf(ordered));
  }

  order(order: RefineOrder): void {
    const key = keyOf(order);
    if (this.#hopeless.has(key)) return;
    const running = this.#running.get(key);
    if (!running) this.#start(order);
    else if (running.chordError !== order.chordError || !sameBox(running.region, order.region))
      this.#next.set(key, order);
  }

  close(): void {
    this.worker.terminate();
  }

  #start(order: RefineOrder): void {
    this.#running.set(keyOf(order), order);
    this.worker.postMessage(order);
  }
}

const sameBox = (a: Box2 | null, b: Box2 | null): boolean =>
  a === b ||
  (a !== null && b !== null && a.minX === b.minX && a.minY === b.minY && a.maxX === b.maxX && a.maxY === b.maxY);
