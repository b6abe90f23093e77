import type { Snap } from '@gull-pane/core/snap/snap';
import type { TileLoader } from './tile-cache';
import type { SnapOrder } from './tile-worker';

/** Later than this an answer is of no use to a hand, ms. */
const PATIENCE_MS = 1500;

/** Asks a worker, which is started when it is first needed, what a point is drawn to. */
export class Snapper {
  #worker: TileLoader | null = null;
  #nextId = 0;
  #hiddenObjects: Uint8Array | null = null;
  readonly #waiting = new Map<number, (snap: Snap | null) => void>();

  constructor(private readonly startWorker: () => TileLoader) {}

  /** @returns null, too, if no answer comes in time */
  find(order: Omit<SnapOrder, 'kind' | 'id'>): Promise<Snap | null> {
    if (order.tiles.length === 0) return Promise.resolve(null);
    const worker = (this.#worker ??= this.#start());
    const id = this.#nextId++;
    return new Promise((resolve) => {
      const timer = setTimeout(() => answer(null), PATIENCE_MS);
      const answer = (snap: Snap | null): void => {
        clearTimeout(timer);
        this.#waiting.delete(id);
        resolve(snap);
      };
      this.#waiting.set(id, answer);
      worker.postMessage({ kind: 'snap', id, ...order });
    });
  }

  /** Objects that nothing is drawn to. @param bytes by object, 0 if it is shown; null if all are */
  hideObjects(bytes: Uint8Array | null): void {
    this.#hiddenObjects = bytes;
    this.#worker?.postMessage({ kind: 'hideObjects', bytes });
  }

  close(): void {
    this.#worker?.terminate();
    for (const answer of [...this.#waiting.values()]) answer(null);
  }

  #start(): TileLoader {
    const worker = this.startWorker();
    worker.onmessage = ({ data }) => {
      if (data.kind === 'snapped') this.#waiting.get(data.id)?.(data.snap);
    };
    if (this.#hiddenObjects) worker.postMessage({ kind: 'hideObjects', bytes: this.#hiddenObjects });
    return worker;
  }
}
