import type { SolidFeatures } from '@gull-pane/core/solid/features';
import { WorkerLine, type WorkerEnd } from '../basics/worker-line';
import type { FeaturesCalls } from './features-worker';

/** Objects whose corners are kept, the last used last. */
const KEPT_OBJECTS = 200;
/** Later than this an answer is of no use to a hand, ms; it is there for the next move. */
const PATIENCE_MS = 1500;

/** The corners, edges and faces of a model's objects by the doubles of its source, fetched when they are first pointed at. */
export class ExactFeatures {
  readonly #line: WorkerLine<FeaturesCalls>;
  readonly #known = new Map<number, Promise<SolidFeatures | null>>();

  /** @param addressOf where an object of the drawing is told */
  constructor(
    private readonly addressOf: (object: number) => string,
    startWorker: () => WorkerEnd,
  ) {
    this.#line = new WorkerLine(startWorker);
  }

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
    this.#line.close();
    this.#known.clear();
  }

  #ask(object: number): Promise<SolidFeatures | null> {
    return this.#line.ask('features', this.addressOf(object)).catch(() => {
      this.#known.delete(object); // asked for again with the next move
      return null;
    });
  }
}
