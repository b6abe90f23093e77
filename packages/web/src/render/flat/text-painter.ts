import { worldToScreen, cameraAxes, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { TileText } from '@gull-pane/core/pyramid/tile-format';

/** Texts lower than this can't be read: a bar stands for them. CSS px of the em square. */
const GREEK_BELOW_PX = 4;
/** Texts lower than this are not even drawn as bars. */
const GONE_BELOW_PX = 0.7;
/** Width of a letter as a share of the em square, for bars and for what is out of sight. */
const MEAN_LETTER = 0.52;
export const DRAWING_FONT = '"Source Sans 3 Variable", sans-serif';

export interface TextLook {
  /** CSS colour of a text; null hides it. */
  readonly colourOf: (text: TileText) => string | null;
}

/** Draws the drawing's texts on a canvas of its own above the lines: sharp at every size and turn. */
export class TextPainter {
  #drawn = 0;
  /** Where on the canvas the view begins that is being written, device px. */
  #corner = { x: 0, y: 0 };

  constructor(private readonly context: CanvasRenderingContext2D) {}

  /** Texts drawn since the last clearing. */
  get drawn(): number {
    return this.#drawn;
  }

  clear(viewport: Viewport, pixelRatio: number): void {
    this.context.setTransform(1, 0, 0, 1, 0, 0);
    this.context.clearRect(0, 0, viewport.widthPx * pixelRatio, viewport.heightPx * pixelRatio);
    this.#drawn = 0;
  }

  /** Moves what is written by whole pixels; what comes into sight is empty. Device px. */
  shift(right: number, down: number): void {
    if (this.#drawn === 0) return;
    const { context } = this;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalCompositeOperation = 'copy';
    context.drawImage(context.canvas, right, down);
    context.globalCompositeOperation = 'source-over';
  }

  /** Writes only within a part of the canvas, device px, with the view's corner at its own. */
  within(left: number, top: number, width: number, height: number, write: () => void): void {
    const { context } = this;
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.beginPath();
    context.rect(left, top, width, height);
    context.clip();
    this.#corner = { x: left, y: top };
    write();
    this.#corner = { x: 0, y: 0 };
    context.restore();
  }

  /** @param origin the place that the texts' positions are relative to, drawing units */
  draw(
    texts: readonly TileText[],
    origin: Vec3,
    camera: Camera,
    viewport: Viewport,
    pixelRatio: number,
    look: TextLook,
  ): void {
    const { context } = this;
    const { right } = cameraAxes(camera);
    const twist = Math.atan2(right.y, right.x);
    for (const mark of texts) {
      const { x, y, size, angleRad, anchor, weight, text } = mark;
      const sizePx = size / camera.unitsPerPx;
      if (sizePx < GONE_BELOW_PX) continue;
      const at = worldToScreen(camera, viewport, { x: origin.x + x, y: origin.y + y, z: 0 });
      const reach = sizePx * (text.length + 1);
      if (at.x < -reach || at.y < -reach || at.x > viewport.widthPx + reach || at.y > viewport.heightPx + reach)
        continue;
      const colour = look.colourOf(mark);
      if (colour === null) continue;
      this.#drawn++;
      const turn = twist - angleRad; // the screen's y points down
      const [cos, sin] = [Math.cos(turn) * pixelRatio, Math.sin(turn) * pixelRatio];
      const { x: left, y: top } = this.#corner;
      context.setTransform(cos, sin, -sin, cos, left + at.x * pixelRatio, top + at.y * pixelRatio);
      context.fillStyle = colour;
      if (sizePx < GREEK_BELOW_PX) {
        const width = sizePx * MEAN_LETTER * text.length;
        const start = anchor === 'start' ? 0 : anchor === 'end' ? -width : -width / 2;
        context.globalAlpha = 0.35;
        context.fillRect(start, -0.6 * sizePx, width, 0.5 * sizePx);
        context.globalAlpha = 1;
        continue;
      }
      context.textAlign = anchor === 'middle' ? 'center' : anchor;
      context.font = `${weight === 'bold' ? 700 : 400} ${sizePx}px ${DRAWING_FONT}`;
      context.fillText(text, 0, 0);
    }
  }
}
