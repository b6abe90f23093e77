import type { Camera } from '@gull-pane/core/camera/camera';
import type { Shown } from '@gull-pane/core/view/shown';

/** So many pictures are kept, the last looked at last. */
const MOST_KEPT = 150;

/** What a picture is of. */
export interface Pictured {
  readonly camera: Camera;
  /** How the drawing is shown in it; as it is shown now if absent. */
  readonly shown?: Shown;
}

const serials = new WeakMap<object, number>();
let lastSerial = 0;
/** Names a value that never changes. */
function serialOf(value: object): number {
  let serial = serials.get(value);
  if (serial === undefined) serials.set(value, (serial = ++lastSerial));
  return serial;
}

const keyOf = ({ camera, shown }: Pictured): string =>
  shown ? `${serialOf(camera)} ${serialOf(shown)}` : `${serialOf(camera)}`;

/** Small pictures of views, shared by all panes of a drawing. Bounded: the oldest are given up. */
export class SmallPictures {
  readonly #addresses = new Map<string, string>();
  readonly #listeners = new Set<() => void>();

  /** The picture of a view, as an address; undefined while there is none. */
  of(view: Pictured): string | undefined {
    return this.#addresses.get(keyOf(view));
  }

  get size(): number {
    return this.#addresses.size;
  }

  keep(view: Pictured, picture: Blob): void {
    const before = this.of(view);
    if (before !== undefined) URL.revokeObjectURL(before);
    this.#addresses.set(keyOf(view), URL.createObjectURL(picture));
    const [oldest] = this.#addresses;
    if (this.#addresses.size > MOST_KEPT && oldest) {
      URL.revokeObjectURL(oldest[1]);
      this.#addresses.delete(oldest[0]);
    }
    this.#tell();
  }

  /** Those that are looked at are given up last. @param views most wanted first */
  lookAt(views: readonly Pictured[]): void {
    for (const key of views.map(keyOf).reverse()) {
      const address = this.#addresses.get(key);
      if (address === undefined) continue;
      this.#addresses.delete(key);
      this.#addresses.set(key, address);
    }
  }

  /** All of them look different now. */
  forget(): void {
    for (const address of this.#addresses.values()) URL.revokeObjectURL(address);
    this.#addresses.clear();
    this.#tell();
  }

  /** @returns what ends it */
  onChange(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  #tell(): void {
    for (const listener of this.#listeners) listener();
  }
}
