import { LinearSRGBColorSpace, WebGLRenderer } from 'three';
import { makePicture } from './painters';
import type { PaneView } from './pane-view';
import type { Picture, Scene } from './scene';
import { TextPainter } from './text-painter';

/** Steps of drawing are asked for on a clock of its own that runs so fast: nobody waits for a hand to come to rest, ms. */
const STEP_MS = 1000;
/** A picture that isn't complete by then is given up, ms. */
const PATIENCE_MS = 60_000;

export interface FrameSize {
  readonly widthPx: number;
  readonly heightPx: number;
}

/**
 * Draws whole pictures of views as they are at rest: every tile that the view wants, the exact forms of what is near,
 * smooth edges. Each is made when it is asked for, however long it takes.
 */
export class FrameMaker {
  readonly #renderer: WebGLRenderer;
  readonly #letters = document.createElement('canvas');
  readonly #sheet = document.createElement('canvas');
  readonly #picture: Picture;
  #clockMs = 0;

  /** @param id of the pane whose looks these are */
  constructor(
    private readonly scene: Scene,
    id: string,
    private readonly size: FrameSize,
    /** All of a view but its camera and its size. */
    private readonly shown: () => Omit<PaneView, 'camera' | 'viewport'>,
  ) {
    this.#renderer = new WebGLRenderer({ antialias: false, preserveDrawingBuffer: true });
    this.#renderer.outputColorSpace = LinearSRGBColorSpace;
    this.#renderer.autoClear = false;
    this.#renderer.sortObjects = false;
    const { widthPx: width, heightPx: height } = size;
    this.#renderer.setSize(width, height, false);
    for (const canvas of [this.#letters, this.#sheet]) Object.assign(canvas, { width, height });
    this.#picture = makePicture(
      `${id}/frames`,
      scene,
      this.#renderer,
      new TextPainter(this.#letters.getContext('2d')!),
    );
  }

  /**
   * @param write puts more over the picture, as a caption
   * @returns the picture as PNG
   * @throws DOMException AbortError if it was called off; Error if the tiles don't come
   */
  async frame(
    camera: PaneView['camera'],
    signal: AbortSignal,
    write?: (paper: CanvasRenderingContext2D, size: FrameSize) => void,
  ): Promise<Uint8Array> {
    const beganMs = performance.now();
    const view: PaneView = { ...this.shown(), camera, viewport: this.size };
    this.#picture.invalidate();
    for (;;) {
      signal.throwIfAborted();
      const { wantsMore } = this.#picture.draw(view, (this.#clockMs += STEP_MS));
      if (this.#picture.isSettled) break;
      if (performance.now() - beganMs > PATIENCE_MS) throw new Error('The drawing’s tiles don’t come.');
      // what arrives arrives between two turns of the page
      await (wantsMore ? nextTurn() : this.#moreHasCome());
    }
    const paper = this.#sheet.getContext('2d')!;
    paper.drawImage(this.#renderer.domElement, 0, 0);
    paper.drawImage(this.#letters, 0, 0);
    write?.(paper, this.size);
    const blob = await new Promise<Blob | null>((resolve) => this.#sheet.toBlob(resolve, 'image/png'));
    if (!blob) throw new Error('The browser can’t make pictures of this size.');
    return new Uint8Array(await blob.arrayBuffer());
  }

  dispose(): void {
    this.#picture.dispose();
    this.#renderer.dispose();
    this.#renderer.forceContextLoss();
  }

  #moreHasCome(): Promise<void> {
    return new Promise((resolve) => {
      const done = (): void => {
        stop();
        clearTimeout(timer);
        resolve();
      };
      const stop = this.scene.onChange(done);
      const timer = setTimeout(done, 200);
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
