import { Growable } from '../geometry/growable.ts';

/** What an object is, as far as it is compared. */
export interface ComparedObject {
  readonly kind: number;
  readonly layer: string;
  /** How it is drawn; the same text for the same look. */
  readonly style: string;
  /** Its words or its name; null for none. */
  readonly label: string | null;
  /** What the file calls it in every revision; null where it has no such name. */
  readonly key: string | null;
  /** Kinds of its steps or numbers of its corners: objects of another make are of another shape. */
  readonly make: ArrayLike<number>;
  /** Its coordinates in the order of the file, drawing units. */
  readonly coords: ArrayLike<number>;
}

/** Numbers for texts, the same in both revisions. */
export class TextTable {
  readonly #numbers = new Map<string, number>();
  readonly texts: string[] = [];

  numberOf(text: string): number {
    let number = this.#numbers.get(text);
    if (number === undefined) {
      this.#numbers.set(text, (number = this.texts.length));
      this.texts.push(text);
    }
    return number;
  }
}

/** No label, no key. */
export const NONE = -1;

/** All objects of one revision, in columns; an object's number is its place. */
export class CompareSide {
  readonly kinds = new Growable(Uint32Array);
  readonly layers = new Growable(Uint32Array);
  readonly styles = new Growable(Uint32Array);
  readonly labels = new Growable(Float64Array);
  readonly keys = new Growable(Float64Array);
  readonly makes = new Growable(Uint32Array);
  readonly ends = new Growable(Float64Array);
  readonly coords = new Growable(Float64Array);

  /**
   * @param stride coordinates of a point: 2 in flat drawings, 3 in models
   * @param table shared by both revisions
   */
  constructor(
    readonly stride: 2 | 3,
    private readonly table: TextTable,
  ) {}

  get count(): number {
    return this.kinds.length;
  }

  add({ kind, layer, style, label, key, make, coords }: ComparedObject): void {
    this.kinds.push(kind);
    this.layers.push(this.table.numberOf(layer));
    this.styles.push(this.table.numberOf(style));
    this.labels.push(label === null ? NONE : this.table.numberOf(label));
    this.keys.push(key === null ? NONE : this.table.numberOf(key));
    this.makes.push(hashOf(make));
    this.coords.append(coords);
    this.ends.push(this.coords.length);
  }

  /** Where an object's coordinates begin. */
  startOf(object: number): number {
    return object === 0 ? 0 : this.ends.at(object - 1);
  }

  endOf(object: number): number {
    return this.ends.at(object);
  }
}

/** A number for a list (FNV-1a, G. Fowler, L. C. Noll, K.-P. Vo). */
function hashOf(list: ArrayLike<number>): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < list.length; i++) hash = Math.imul(hash ^ list[i]!, 0x01000193);
  return (hash ^ list.length) >>> 0;
}
