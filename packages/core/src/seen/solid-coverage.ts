import type { Vec3 } from '../geometry/vec.ts';
import type { Covered } from './coverage.ts';

/** The objects of a model, by their numbers. */
export interface CoveredTable {
  /** Of each its layer. */
  readonly layers: ArrayLike<number>;
  /** Of each min x, y, z, max x, y, z; drawing units. */
  readonly boxes: ArrayLike<number>;
}

/**
 * Which objects of a model have been seen: not hidden behind others, at a readable size. Told by what lines of sight met,
 * so that what lies inside another object counts only once one looked inside.
 */
export class SolidCoverage {
  readonly #seen: Uint8Array<ArrayBuffer>;
  #count = 0;

  constructor(private readonly table: CoveredTable) {
    this.#seen = new Uint8Array((table.layers.length + 7) >> 3);
  }

  /** A bit an object, by its number. */
  get bits(): Uint8Array<ArrayBuffer> {
    return this.#seen.slice();
  }

  /** Takes what was seen before; bits beyond the model's objects are left out. */
  set bits(bits: Uint8Array) {
    this.#seen.fill(0);
    this.#count = 0;
    for (let object = 0; object < this.table.layers.length; object++)
      if (((bits[object >> 3] ?? 0) >> (object & 7)) & 1) this.see(object);
  }

  get covered(): Covered {
    return { seen: this.#count, total: this.table.layers.length };
  }

  isSeen(object: number): boolean {
    return ((this.#seen[object >> 3]! >> (object & 7)) & 1) === 1;
  }

  /** @returns whether it hadn't been seen before */
  see(object: number): boolean {
    if (this.isSeen(object)) return false;
    this.#seen[object >> 3]! |= 1 << (object & 7);
    this.#count++;
    return true;
  }

  /** Seen and all objects of each layer, by its number. */
  byLayer(): Map<number, Covered> {
    const layers = new Map<number, { seen: number; total: number }>();
    for (let object = 0; object < this.table.layers.length; object++) {
      const layer = this.table.layers[object]!;
      let own = layers.get(layer);
      if (!own) layers.set(layer, (own = { seen: 0, total: 0 }));
      own.total++;
      if (this.isSeen(object)) own.seen++;
    }
    return layers;
  }

  /** The unseen object whose box has its middle nearest to a point; null if all that is shown has been seen. */
  nearestUnseen({ x, y, z }: Vec3, isShown: (object: number) => boolean): number | null {
    const { boxes, layers } = this.table;
    let [best, least]: [number | null, number] = [null, Infinity];
    for (let object = 0; object < layers.length; object++) {
      if (this.isSeen(object) || !isShown(object)) continue;
      const middle = (axis: number): number => (boxes[6 * object + axis]! + boxes[6 * object + axis + 3]!) / 2;
      const distance = Math.hypot(middle(0) - x, middle(1) - y, middle(2) - z);
      if (distance < least) [best, least] = [object, distance];
    }
    return best;
  }
}
