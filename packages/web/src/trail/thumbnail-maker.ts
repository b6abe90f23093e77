import type { Viewport } from '@gull-pane/core/camera/camera';
import { OffScreenPicture } from '../render/off-screen-picture';
import type { Scene } from '../render/scene/scene';
import type { PaneView } from '../render/picture/pane-view';
import type { Pictured, SmallPictures } from '../store/small-pictures';
import { Patience } from './patience';

/** Size of a thumbnail's picture; it is shown smaller and, when it is looked at, so large. CSS px. */
export const THUMBNAIL = { widthPx: 240, heightPx: 150 } as const;
/** Segments and triangles of a thumbnail: so many that it takes no longer than a frame. */
const MOST_WEIGHT = 24_000;
/** From one thumbnail to the next, ms: a hand that begins to move finds the machine free. */
const PAUSE_MS = 60;
/** So long tiles are waited for, and so long while there are none at all, ms. */
const [PATIENCE_MS, BLANK_PATIENCE_MS] = [1500, 15_000] as const;

/** What a thumbnail is wanted of. */
export interface Wanted extends Pictured {
  readonly viewport: Viewport;
}

/** The pane that thumbnails are made for. */
export interface ThumbnailSource {
  /** Whether it is at rest: only then is anything made. */
  readonly isCalm: () => boolean;
  /** All of its view but its camera and its size. */
  readonly shown: () => Omit<PaneView, 'camera' | 'viewport'>;
  /** Its own picture, as large as a thumbnail, if it shows just this view now. */
  readonly own?: (view: Pictured) => HTMLCanvasElement | null;
}

/**
 * Makes small pictures of views while nothing else is going on: from what the pane itself shows, or one at a time on a
 * canvas of its own, from the tiles that are there.
 */
export class ThumbnailMaker {
  readonly #picture: OffScreenPicture;
  #wanted: readonly Wanted[] = [];
  #timer: number | undefined;
  readonly #patience = new Patience();
  readonly #stop: () => void;

  constructor(
    scene: Scene,
    id: string,
    readonly pictures: SmallPictures,
    private readonly source: ThumbnailSource,
  ) {
    this.#picture = new OffScreenPicture(`${id}/thumbnails`, scene, 'shared');
    this.#stop = pictures.onChange(() => this.#later());
  }

  /** @param wanted the views that are looked at, most wanted first */
  want(wanted: readonly Wanted[]): void {
    this.#wanted = wanted;
    this.pictures.lookAt(wanted);
    this.#later();
  }

  dispose(): void {
    window.clearTimeout(this.#timer);
    this.#stop();
    this.#wanted = [];
    this.#picture.dispose();
  }

  #next(): Wanted | undefined {
    return this.#wanted.find((view) => this.pictures.of(view) === undefined);
  }

  #later(): void {
    if (this.#timer !== undefined || !this.#next()) return;
    this.#timer = window.setTimeout(() => {
      this.#timer = undefined;
      this.#make();
    }, PAUSE_MS);
  }

  #make(): void {
    const next = this.#next();
    if (!next) return;
    // what the pane shows just now is there before its edges are smooth
    const sheet = this.source.own?.(next) ?? (this.source.isCalm() ? this.#drawn(next) : this.#interrupted());
    if (!sheet) {
      this.#later();
      return;
    }
    sheet.toBlob(
      (blob) => {
        if (blob) this.pictures.keep(next, blob);
        this.#later();
      },
      'image/webp',
      0.8,
    );
  }

  /** @returns null while tiles are waited for */
  #drawn({ camera, viewport, shown }: Wanted): HTMLCanvasElement | null {
    const factor = Math.max(viewport.widthPx / THUMBNAIL.widthPx, viewport.heightPx / THUMBNAIL.heightPx);
    const small = { ...camera, unitsPerPx: camera.unitsPerPx * factor };
    const now = this.source.shown();
    const { look, kinds, hiddenLayers, clips } = shown ?? now;
    const view = { ...now, look, kinds, hiddenLayers, clips, camera: small, viewport: THUMBNAIL };
    const sheet = this.#picture.drawNow(view, MOST_WEIGHT);
    const longMs = this.#picture.isBlank ? BLANK_PATIENCE_MS : PATIENCE_MS;
    if (this.#picture.pendingTiles > 0 && !this.#patience.hasWaited(camera, longMs, performance.now())) return null;
    this.#patience.begin();
    this.#picture.rest();
    return sheet;
  }

  /** A hand moves: what it wants to see comes first. */
  #interrupted(): null {
    this.#patience.begin();
    return null;
  }
}
