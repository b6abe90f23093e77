import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import type { Shown } from '@gull-pane/core/view/shown';
import { OffScreenPicture } from '../render/off-screen-picture';
import type { Scene } from '../render/scene/scene';
import type { PaneView } from '../render/picture/pane-view';

/** Size of a thumbnail's picture; it is shown smaller and, when it is looked at, so large. CSS px. */
export const THUMBNAIL = { widthPx: 240, heightPx: 150 } as const;
/** Segments and triangles of a thumbnail: so many that it takes no longer than a frame. */
const MOST_WEIGHT = 24_000;
/** So many pictures are kept, the last looked at last. */
const MOST_KEPT = 150;
/** From one thumbnail to the next, ms: a hand that begins to move finds the machine free. */
const PAUSE_MS = 60;
/** So long tiles are waited for, ms. */
const PATIENCE_MS = 1500;

/** What a thumbnail is wanted of. */
export interface Wanted {
  readonly camera: Camera;
  readonly viewport: Viewport;
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

const keyOf = ({ camera, shown }: Pick<Wanted, 'camera' | 'shown'>): string =>
  shown ? `${serialOf(camera)} ${serialOf(shown)}` : `${serialOf(camera)}`;

/**
 * Makes small pictures of views while nothing else is going on: one at a time, from the tiles that are there, on a
 * canvas of its own. Bounded: the oldest pictures are given up and made again when they are looked at.
 */
export class ThumbnailMaker {
  readonly #picture: OffScreenPicture;
  readonly #pictures = new Map<string, string>();
  #wanted: readonly Wanted[] = [];
  #timer: number | undefined;
  #waitingSinceMs: number | null = null;
  readonly #listeners = new Set<() => void>();

  /** @param isCalm whether the pane is at rest: only then is anything made */
  constructor(
    scene: Scene,
    id: string,
    private readonly isCalm: () => boolean,
    /** All of a view but its camera and its size. */
    private readonly shown: () => Omit<PaneView, 'camera' | 'viewport'>,
  ) {
    this.#picture = new OffScreenPicture(`${id}/thumbnails`, scene, 'shared');
  }

  /** The picture of a view, as an address; undefined while it isn't made. */
  of(view: Pick<Wanted, 'camera' | 'shown'>): string | undefined {
    return this.#pictures.get(keyOf(view));
  }

  /** @param wanted the views that are looked at, most wanted first */
  want(wanted: readonly Wanted[]): void {
    this.#wanted = wanted;
    for (const key of wanted.map(keyOf).reverse()) {
      const picture = this.#pictures.get(key);
      if (picture === undefined) continue;
      this.#pictures.delete(key);
      this.#pictures.set(key, picture);
    }
    this.#later();
  }

  /** All pictures look different now: they are made anew. */
  forget(): void {
    for (const picture of this.#pictures.values()) URL.revokeObjectURL(picture);
    this.#pictures.clear();
    for (const listener of this.#listeners) listener();
    this.#later();
  }

  onMade(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  get kept(): number {
    return this.#pictures.size;
  }

  dispose(): void {
    window.clearTimeout(this.#timer);
    this.#wanted = [];
    this.#picture.dispose();
    for (const picture of this.#pictures.values()) URL.revokeObjectURL(picture);
  }

  #later(): void {
    if (this.#timer !== undefined || !this.#wanted.some((view) => !this.#pictures.has(keyOf(view)))) return;
    this.#timer = window.setTimeout(() => {
      this.#timer = undefined;
      this.#make();
    }, PAUSE_MS);
  }

  #make(): void {
    const next = this.#wanted.find((view) => !this.#pictures.has(keyOf(view)));
    if (!next) return;
    if (!this.isCalm()) {
      this.#later();
      return;
    }
    const { camera, viewport, shown } = next;
    const factor = Math.max(viewport.widthPx / THUMBNAIL.widthPx, viewport.heightPx / THUMBNAIL.heightPx);
    const small = { ...camera, unitsPerPx: camera.unitsPerPx * factor };
    const { look, kinds, hiddenLayers, clips } = shown ?? this.shown();
    const view = { ...this.shown(), look, kinds, hiddenLayers, clips, camera: small, viewport: THUMBNAIL };
    const sheet = this.#picture.drawNow(view, MOST_WEIGHT);
    this.#waitingSinceMs ??= performance.now();
    if (this.#picture.pendingTiles > 0 && performance.now() - this.#waitingSinceMs < PATIENCE_MS) {
      this.#later();
      return;
    }
    this.#waitingSinceMs = null;
    this.#picture.rest();
    sheet.toBlob(
      (blob) => {
        if (blob) this.#keep(keyOf(next), URL.createObjectURL(blob));
        this.#later();
      },
      'image/webp',
      0.8,
    );
  }

  #keep(key: string, picture: string): void {
    this.#pictures.set(key, picture);
    const [oldest] = this.#pictures;
    if (this.#pictures.size > MOST_KEPT && oldest && oldest[0] !== key) {
      URL.revokeObjectURL(oldest[1]);
      this.#pictures.delete(oldest[0]);
    }
    for (const listener of this.#listeners) listener();
  }
}
