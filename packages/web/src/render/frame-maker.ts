import type { Viewport } from '@gull-pane/core/camera/camera';
import type { Scene } from './scene/scene';
import { OffScreenPicture } from './off-screen-picture';
import type { PaneView } from './picture/pane-view';

/** Writes views as pictures in files; each is made when it is asked for, however long it takes. */
export class FrameMaker {
  readonly #picture: OffScreenPicture;

  /** @param id of the pane whose looks these are */
  constructor(
    scene: Scene,
    id: string,
    private readonly size: Viewport,
    /** All of a view but its camera and its size. */
    private readonly shown: () => Omit<PaneView, 'camera' | 'viewport'>,
  ) {
    this.#picture = new OffScreenPicture(`${id}/frames`, scene, 'own');
  }

  /**
   * @param write puts more over the picture, as a caption
   * @returns the picture as PNG
   * @throws DOMException AbortError if it was called off; Error if the tiles don't come or the picture is too large
   */
  async frame(
    camera: PaneView['camera'],
    signal: AbortSignal,
    write?: (paper: CanvasRenderingContext2D, size: Viewport) => void,
  ): Promise<Uint8Array> {
    const paper = await this.#picture.drawToRest({ ...this.shown(), camera, viewport: this.size }, signal);
    write?.(paper.getContext('2d')!, this.size);
    const blob = await new Promise<Blob | null>((resolve) => paper.toBlob(resolve, 'image/png'));
    if (!blob) throw new Error('The browser can’t make pictures of this size.');
    return new Uint8Array(await blob.arrayBuffer());
  }

  dispose(): void {
    this.#picture.dispose();
  }
}
