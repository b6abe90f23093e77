import { planCamera, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { orientationAtBearing } from '@gull-pane/core/camera/twist';
import { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import { unitsPerPaperMm } from '@gull-pane/core/sheets/sheet';
import { allKinds, type ShownKinds } from '@gull-pane/core/view/shown';
import type { SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import { OffScreenPicture } from '../render/off-screen-picture';
import { makeScene } from '../render/painters';
import type { Scene } from '../render/scene/scene';
import type { DrawingContent } from '../store/drawing-store';

const white = { r: 255, g: 255, b: 255, a: 255 };
const ID = 'sheets';

/** Draws what frames show, one after the other, as it will stand on white paper. */
export class FramePictures {
  #held: { readonly scene: Scene; readonly picture: OffScreenPicture } | null = null;
  #last: Promise<unknown> = Promise.resolve();

  constructor(private readonly content: DrawingContent) {}

  /** From now on pictures are wanted. @returns what gives all back that they take */
  attach(): () => void {
    return () => {
      this.#held?.picture.dispose();
      this.#held?.scene.leave(ID);
      this.#held?.scene.dispose();
      this.#held = null;
    };
  }

  /**
   * Draws a frame onto a canvas of this size.
   * @throws DOMException AbortError if it was called off; Error if the tiles don't come
   */
  draw(frame: SheetFrameDto, viewport: Viewport, onto: HTMLCanvasElement, signal: AbortSignal): Promise<void> {
    const drawn = this.#last.then(async () => {
      signal.throwIfAborted();
      const { scene, picture } = (this.#held ??= this.#hold());
      const { layers, drawing } = this.content;
      const hidden = new Set(frame.shows.hiddenLayers);
      const hiddenLayers = new Set(layers.filter(({ name }) => hidden.has(name)).map(({ id }) => id));
      const numbers = numbersOfRanges(frame.shows.hiddenObjects, drawing.counts.objects);
      scene.hideObjects(ID, numbers.length > 0 ? ObjectMask.none(drawing.counts.objects).hiding(numbers) : null);
      const camera = this.#cameraOf(frame, viewport);
      const kinds = kindsOf(frame);
      const rest = { look: 'lines', clips: [], smoothEdges: true, sheet: null } as const;
      const paper = await picture.drawToRest({ ...rest, camera, viewport, hiddenLayers, kinds }, signal);
      Object.assign(onto, { width: viewport.widthPx, height: viewport.heightPx });
      onto.getContext('2d')!.drawImage(paper, 0, 0);
    });
    this.#last = drawn.catch(() => undefined);
    return drawn;
  }

  #hold(): { readonly scene: Scene; readonly picture: OffScreenPicture } {
    const scene = makeScene(this.content, white);
    return { scene, picture: new OffScreenPicture(ID, scene, 'own') };
  }

  #cameraOf({ view, widthMm }: SheetFrameDto, { widthPx }: Viewport): Camera {
    const unitsPerPx = (unitsPerPaperMm(view.denominator, this.content.drawing.unit) * widthMm) / widthPx;
    return {
      ...planCamera({ x: view.x, y: view.y, z: 0 }, unitsPerPx),
      orientation: orientationAtBearing(view.bearingRad),
    };
  }
}

const kindsOf = ({ shows }: SheetFrameDto): ShownKinds => {
  const kinds: Record<keyof ShownKinds, boolean> = { ...allKinds };
  for (const kind of shows.kindsOff) kinds[kind] = false;
  return kinds;
};
