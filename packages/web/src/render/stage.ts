import { ColorManagement, LinearSRGBColorSpace, WebGLRenderer } from 'three';
import { makePicture } from './painters';
import type { PaneView } from './pane-view';
import type { DrawnCounts, Picture, Scene } from './scene';
import { TextPainter } from './text-painter';
import { Turns } from './turns';

// A drawing's colours are shown as they are: nothing is lit, so nothing is converted.
ColorManagement.enabled = false;

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
    canvas: HTMLCanvasElement,
    private readonly textCanvas: HTMLCanvasElement,
    private readonly pane: PaneSource,
    scene: Scene,
  ) {
    this.#renderer = new WebGLRenderer({
      canvas,
      antialias: false,
      preserveDrawingBuffer: true,
      powerPreference: 'high-performance',
    });
    this.#renderer.outputColorSpace = LinearSRGBColorSpace;
    this.#renderer.autoClear = false;
    this.#renderer.sortObjects = false;
    const context = textCanvas.getContext('2d');
    if (!context) throw new Error('stage: this browser gives no canvas to write on');
    this.#picture = makePicture(pane.id, scene, this.#renderer, new TextPainter(context));
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

  get isSettled(): boolean {
    return this.#picture.isSettled && this.#request === 0;
  }

  resize(widthPx: number, heightPx: number, pixelRatio: number): void {
    this.#renderer.setPixelRatio(pixelRatio);
    this.#renderer.setSize(widthPx, heightPx, false);
    this.textCanvas.width = Math.round(widthPx * pixelRatio);
    this.textCanvas.height = Math.round(heightPx * pixelRatio);
    this.#picture.invalidate();
    this.wake();
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
    cancelAnimationFrame(this.#request);
    this.#picture.dispose();
    this.#renderer.dispose();
    this.#renderer.forceContextLoss(); // a browser has only so many of them
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
