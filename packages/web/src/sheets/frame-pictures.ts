import type { Viewport } from '@gull-pane/core/camera/camera';
import { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import { frameCamera } from '@gull-pane/core/sheets/frame-camera';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import { allKinds, type ShownKinds } from '@gull-pane/core/view/shown';
import { clipFromDto } from '@gull-pane/protocol/clip-dto';
import type { SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import { sheetSetsApi } from '../api/sheet-sets-api';
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
      const camera = frameCamera(frame, drawing.unit, viewport.widthPx / frame.widthMm);
      const kinds = kindsOf(frame);
      const look = drawing.kind === 'solid' ? (frame.shows.look ?? 'hidden-line') : 'lines';
      const clips = (frame.shows.clips ?? []).map(clipFromDto);
      const rest = { look, clips, smoothEdges: true, sheet: null, withoutGrid: true } as const;
      const paper = await picture.drawToRest({ ...rest, camera, viewport, hiddenLayers, kinds }, signal);
      Object.assign(onto, { width: viewport.widthPx, height: viewport.heightPx });
      onto.getContext('2d')!.drawImage(paper, 0, 0);
    });
    this.#last = drawn.catch(() => undefined);
    return drawn;
  }

  /** What lies on top of a frame: marks, changes, what nobody has seen yet. @throws ApiError */
  overlay(frame: SheetFrameDto, signal: AbortSignal): Promise<readonly SheetPart[]> {
    return sheetSetsApi.overlay(this.content.drawing.id, frame, signal);
  }

  #hold(): { readonly scene: Scene; readonly picture: OffScreenPicture } {
    const scene = makeScene(this.content, white);
    return { scene, picture: new OffScreenPicture(ID, scene, 'own') };
  }
}

const kindsOf = ({ shows }: SheetFrameDto): ShownKinds => {
  const kinds: Record<keyof ShownKinds, boolean> = { ...allKinds };
  for (const kind of shows.kindsOff) kinds[kind] = false;
  return kinds;
};
