/** Which objects of a drawing are hidden: a byte each, so that any number of them is looked up at once. Never changes. */
export class ObjectMask {
  private constructor(
    /** By object: 255 if it is hidden, else 0. */
    readonly bytes: Uint8Array<ArrayBuffer>,
    /** How many are hidden. */
    readonly count: number,
  ) {}

  /** @param objects how many the drawing has */
  static none(objects: number): ObjectMask {
    return new ObjectMask(new Uint8Array(objects), 0);
  }

  has(object: number): boolean {
    return this.bytes[object] === HIDDEN;
  }

  /** Also hides these. */
  hiding(objects: Iterable<number>): ObjectMask {
    const bytes = this.bytes.slice();
    let { count } = this;
    for (const object of objects) {
      if (bytes[object] !== 0) continue; // hidden already, or none of the drawing's
      bytes[object] = HIDDEN;
      count++;
    }
    return new ObjectMask(bytes, count);
  }

  /** Hides all but these. */
  showingOnly(objects: Iterable<number>): ObjectMask {
    const bytes = new Uint8Array(this.bytes.length).fill(HIDDEN);
    let count = bytes.length;
    for (const object of objects) {
      if (bytes[object] !== HIDDEN) continue;
      bytes[object] = 0;
      count--;
    }
    return new ObjectMask(bytes, count);
  }
}

const HIDDEN = 255;
