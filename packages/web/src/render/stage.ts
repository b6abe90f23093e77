import type { WebGLRenderer } from 'three';
import { dropRenderer, makeRenderer } from './gl/renderer';
import { makePicture } from './painters';
import type { PaneView } from './picture/pane-view';
import type { DrawnCounts, Picture } from './picture/picture';
import type { Scene } from './scene/scene';
import { Turns } from './picture/turns';

/** All stages of a page draw in one thread. */
const turns = new Turns<Stage>();

/** What the stage asks of a pane at every frame. */
export interface PaneSource {
  readonly id: string;
  /** Moves the pane's view on in time. @returns whether there is more to come */
  advance(): boolean;
  view(): PaneView;
}

/** One pane's canvases with the loop that draws when something has changed and only then. */
export class Stage {
  readonly #renderer: WebGLRenderer;
  readonly #picture: Picture;
  #request = 0;
  #frames = 0;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly textCanvas: HTMLCanvasElement,
    private readonly pane: PaneSource,
    scene: Scene,
  ) {
    this.#renderer = makeRenderer(canvas);
    canvas.addEventListener('webglcontextrestored', this.redraw);
    const context = textCanvas.getContext('2d');
    if (!context) throw new Error('stage: this browser gives no canvas to write on');
    this.#picture = makePicture(pane.id, scene, this.#renderer, context);
  }

  get counts(): DrawnCounts {
    return this.#picture.counts;
  }

  get frameMs(): number {
    return this.#picture.frameMs;
  }

  get pendingTiles(): number {
    return this.#picture.pendingTiles;
  }

  /** Frames drawn so far. */
  get frames(): number {
    return this.#frames;
  }

  /** Everything is drawn as it is now, though its edges may still become smooth. */
  get isWhole(): boolean {
    return this.#picture.isWhole && this.#picture.workOn(this.pane.view()) !== 'moving';
  }

  get isSettled(): boolean {
    return this.#picture.isSettled && this.#request === 0;
  }

  /** The pane must know its new size already. */
  resize(widthPx: number, heightPx: number, pixelRatio: number): void {
    this.#renderer.setPixelRatio(pixelRatio);
    this.#renderer.setSize(widthPx, heightPx, false);
    this.textCanvas.width = Math.round(widthPx * pixelRatio);
    this.textCanvas.height = Math.round(heightPx * pixelRatio);
    this.#picture.invalidate();
    // a canvas of another size is empty: it is drawn before anybody sees it
    cancelAnimationFrame(this.#request);
    this.#frame(performance.now());
  }

  /** Something may have changed: a frame is looked at soon. */
  readonly wake = (): void => {
    if (this.#request === 0) this.#request = requestAnimationFrame(this.#frame);
  };

  /** The same view is drawn again, because what it shows looks different now. */
  readonly redraw = (): void => {
    this.#picture.invalidate();
    this.wake();
  };

  dispose(): void {
    turns.leave(this);
    this.canvas.removeEventListener('webglcontextrestored', this.redraw);
    cancelAnimationFrame(this.#request);
    this.#picture.dispose();
    dropRenderer(this.#renderer);
  }

  readonly #frame = (nowMs: number): void => {
    this.#request = 0;
    if (this.pane.advance()) this.wake();
    const view = this.pane.view();
    if (!turns.mayDraw(this, this.#picture.workOn(view), nowMs)) {
      this.wake();
      return;
    }
    const { didDraw, wantsMore } = this.#picture.draw(view, nowMs);
    if (didDraw) this.#frames++;
    if (wantsMore) this.wake();
    else turns.leave(this);
  };
}
