import type { WebGLRenderer } from 'three';
import { OFF_SCREEN_PATIENCE_MS } from './budgets';
import { borrowRenderer, dropRenderer, makeRenderer, returnRenderer } from './gl/renderer';
import { makePicture } from './painters';
import type { Scene } from './scene/scene';
import type { PaneView } from './picture/pane-view';
import type { Picture } from './picture/picture';

/** The picture's own clock advances by this much per step, so that no time is spent waiting for a hand to come to rest, ms. */
const STEP_MS = 1000;
/** Tiles that don't tell of their coming are looked for so often, ms. */
const LOOK_MS = 200;

/** Pictures that aren't shown while they are drawn: small ones, frames of a film, a sheet on the ground. */
export class OffScreenPicture {
  readonly #renderer: WebGLRenderer;
  readonly #letters = document.createElement('canvas');
  readonly #paper = document.createElement('canvas');
  readonly #picture: Picture;
  #clockMs = 0;
  #isBlank = true;

  /**
   * @param id names the picture, after the pane whose looks it has
   * @param context its own for pictures that take many turns of the page; shared for those that are made in one
   */
  constructor(
    private readonly id: string,
    private readonly scene: Scene,
    private readonly context: 'own' | 'shared',
  ) {
    this.#renderer = context === 'own' ? makeRenderer() : borrowRenderer();
    this.#picture = makePicture(id, scene, this.#renderer, this.#letters.getContext('2d')!);
  }

  /** Tiles that are still to come. */
  get pendingTiles(): number {
    return this.#picture.pendingTiles;
  }

  /** Whether the last pass drew nothing. */
  get isBlank(): boolean {
    return this.#isBlank;
  }

  /**
   * Draws what has arrived of a view, as one pass.
   * @param mostWeight what may be drawn, in segments of a plan
   * @returns a canvas of the view's size; the next picture is drawn on it, too
   */
  drawNow(view: PaneView, mostWeight?: number): HTMLCanvasElement {
    this.#sizeTo(view);
    const { segments, triangles, texts } = this.#picture.drawOnePass(view, mostWeight);
    this.#isBlank = segments + triangles + texts === 0;
    return this.#merged();
  }

  /**
   * Draws a view as it is at rest: every tile that it wants, exact forms of what is near, smooth edges.
   * @returns as {@link drawNow}
   * @throws DOMException AbortError if it was called off; Error if the tiles don't come
   */
  async drawToRest(view: PaneView, signal: AbortSignal): Promise<HTMLCanvasElement> {
    const beganMs = performance.now();
    this.#sizeTo(view);
    this.#picture.invalidate();
    for (;;) {
      signal.throwIfAborted();
      const { wantsMore } = this.#picture.draw(view, (this.#clockMs += STEP_MS));
      if (this.#picture.isSettled) return this.#merged();
      if (performance.now() - beganMs > OFF_SCREEN_PATIENCE_MS) throw new Error('The drawing’s tiles don’t come.');
      // what arrives arrives between two turns of the page
      await (wantsMore ? nextTurn() : this.#moreHasCome());
    }
  }

  /** Wants no tiles until it draws again. */
  rest(): void {
    this.scene.want(this.id, []);
  }

  dispose(): void {
    this.#picture.dispose();
    if (this.context === 'own') dropRenderer(this.#renderer);
    else returnRenderer();
  }

  #sizeTo({ viewport: { widthPx: width, heightPx: height } }: PaneView): void {
    const { domElement } = this.#renderer; // others may draw with the same renderer
    if (domElement.width !== width || domElement.height !== height) this.#renderer.setSize(width, height, false);
    if (this.#paper.width === width && this.#paper.height === height) return;
    for (const canvas of [this.#letters, this.#paper]) Object.assign(canvas, { width, height });
  }

  #merged(): HTMLCanvasElement {
    const paper = this.#paper.getContext('2d')!;
    paper.drawImage(this.#renderer.domElement, 0, 0);
    paper.drawImage(this.#letters, 0, 0);
    return this.#paper;
  }

  #moreHasCome(): Promise<void> {
    return new Promise((resolve) => {
      const done = (): void => {
        stop();
        clearTimeout(timer);
        resolve();
      };
      const stop = this.scene.onChange(done);
      const timer = setTimeout(done, LOOK_MS);
    });
  }
}

const nextTurn = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });
