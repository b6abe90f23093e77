import type { SolidFeatures } from '@gull-pane/core/solid/features';
import type { FromFeaturesWorker, ToFeaturesWorker } from './features-worker';

/** A worker as its client sees it; tests bring their own. */
export interface FeaturesWorker {
  postMessage(message: ToFeaturesWorker): void;
  onmessage: ((event: MessageEvent<FromFeaturesWorker>) => void) | null;
  terminate(): void;
}

/** Objects whose corners are kept, the last used last. */
const KEPT_OBJECTS = 200;
/** Later than this an answer is of no use to a hand, ms; it is there for the next move. */
const PATIENCE_MS = 1500;

/** The corners, edges and faces of a model's objects by the doubles of its source, fetched when they are first pointed at. */
export class ExactFeatures {
  #worker: FeaturesWorker | null = null;
  readonly #known = new Map<number, Promise<SolidFeatures | null>>();
  readonly #waiting = new Map<number, (features: SolidFeatures | null) => void>();

  /** @param addressOf where an object of the drawing is told */
  constructor(
    private readonly addressOf: (object: number) => string,
    private readonly startWorker: () => FeaturesWorker,
  ) {}

  /** @returns null if the object doesn't arrive in time */
  of(object: number): Promise<SolidFeatures | null> {
    const known = this.#known.get(object) ?? this.#ask(object);
    this.#known.delete(object);
    this.#known.set(object, known);
    const [oldest] = this.#known.keys();
    if (this.#known.size > KEPT_OBJECTS && oldest !== undefined) this.#known.delete(oldest);
    return Promise.race([
      known,
      new Promise<null>((resolve) => {
        setTimeout(() => resolve(null), PATIENCE_MS);
      }),
    ]);
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
    for (const answer of this.#waiting.values()) answer(null);
    this.#waiting.clear();
    this.#known.clear();
  }

  #ask(object: number): Promise<SolidFeatures | null> {
    const worker = (this.#worker ??= this.#start());
    return new Promise((resolve) => {
      this.#waiting.set(object, resolve);
      worker.postMessage({ object, address: this.addressOf(object) });
    });
  }

  #start(): FeaturesWorker {
    const worker = this.startWorker();
    worker.onmessage = ({ data: { object, features } }) => {
      if (!features) this.#known.delete(object); // asked for again with the next move
      this.#waiting.get(object)?.(features);
      this.#waiting.delete(object);
    };
    return worker;
  }
}
