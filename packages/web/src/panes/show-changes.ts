import { worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import type { ChangeBoxDto, ChangeDto } from '@gull-pane/protocol/comparison';
import type { Parts } from '../actions/action';
import { usePreferences } from '../store/preferences-store';
import { coloursOf } from '../words/change-words';

/** Width of what was and of what is, CSS px. */
const BEFORE_PX = 1.6;
const AFTER_PX = 2.4;
/** What was is broken, what is isn't: told apart without colours, too. CSS px. */
const BROKEN_PX = [6, 4];
/** A cluster smaller than this on the screen has a ring round it, CSS px. */
const SMALL_PX = 14;
/** What is smaller than this is a dot of that size, CSS px. */
const DOT_PX = 3;

/** Draws what differs between two revisions while that is shown. @returns what ends it */
export function showChanges(
  own: HTMLCanvasElement,
  { pane, comparison, seen }: Parts<'pane' | 'seen' | 'comparison'>,
): () => void {
  const surface = own.closest<HTMLElement>('.pane-surface');
  const context = own.getContext('2d')!;
  let frame = 0;
  const draw = (): void => {
    frame = 0;
    const { camera, viewport } = pane.getState();
    const { comparison: told, isShown, fade, wipes, current } = comparison.getState();
    const ratio = window.devicePixelRatio;
    const [width, height] = [Math.round(viewport.widthPx * ratio), Math.round(viewport.heightPx * ratio)];
    if (own.width !== width || own.height !== height) [own.width, own.height] = [width, height];
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    if (surface) surface.dataset.comparing = String(told !== null && isShown);
    if (!told || !isShown) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const brush = new ChangeBrush(context, camera, viewport, told.axes, wipes ? 0.5 : fade);
    const paint = (part: Part): void => {
      for (const change of told.changes) brush.change(change, change.cluster === current, part);
    };
    if (wipes) {
      const line = fade * viewport.widthPx;
      brush.within(0, line, () => paint('after'));
      brush.within(line, viewport.widthPx, () => paint('before'));
      brush.line(line);
    } else paint('both');
    told.clusters.forEach(({ box }, cluster) => brush.ring(box, cluster === current));
  };
  const wake = (): void => {
    frame ||= requestAnimationFrame(draw);
  };
  seen.canvases = [...seen.canvases, own];
  const stops = [pane.subscribe(wake), comparison.subscribe(wake), usePreferences.subscribe(() => setTimeout(wake))];
  wake();
  return () => {
    cancelAnimationFrame(frame);
    for (const stop of stops) stop();
    delete surface?.dataset.comparing;
    seen.canvases = seen.canvases.filter((one) => one !== own);
  };
}

/** What of a change is drawn. */
type Part = 'before' | 'after' | 'both';

class ChangeBrush {
  readonly #before: string;
  readonly #after: string;

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly camera: Camera,
    private readonly viewport: Viewport,
    private readonly axes: 2 | 3,
    private readonly fade: number,
  ) {
    const { before, after } = coloursOf(getComputedStyle(context.canvas));
    [this.#before, this.#after] = [before, after];
  }

  /** Draws only between two abscissas, CSS px. */
  within(leftPx: number, rightPx: number, draw: () => void): void {
    const { context, viewport } = this;
    context.save();
    context.beginPath();
    context.rect(leftPx, 0, rightPx - leftPx, viewport.heightPx);
    context.clip();
    draw();
    context.restore();
  }

  /** The line of a wipe. */
  line(xPx: number): void {
    const { context, viewport } = this;
    context.strokeStyle = this.#after;
    context.lineWidth = 1;
    context.beginPath();
    context.moveTo(xPx, 0);
    context.lineTo(xPx, viewport.heightPx);
    context.stroke();
  }

  change({ box, linesBefore, linesAfter }: ChangeDto, isCurrent: boolean, part: Part): void {
    const { context } = this;
    const frame = this.#frameOf(box);
    if (!frame) return;
    const wider = isCurrent ? 1.6 : 1;
    context.globalAlpha = Math.min(2 - 2 * this.fade, 1);
    context.setLineDash(BROKEN_PX);
    if (part !== 'after') this.#stroke(linesBefore, this.#before, BEFORE_PX * wider);
    context.setLineDash([]);
    context.globalAlpha = Math.min(2 * this.fade, 1);
    if (part !== 'before') this.#stroke(linesAfter, this.#after, AFTER_PX * wider);
    context.globalAlpha = 1;
    const { x, y, width, height } = frame;
    if (Math.max(width, height) >= DOT_PX) return;
    const isThere = { before: linesBefore.length > 0, after: linesAfter.length > 0, both: true }[part];
    if (!isThere) return;
    context.fillStyle = linesAfter.length > 0 && part !== 'before' ? this.#after : this.#before;
    context.fillRect(x - DOT_PX / 2, y - DOT_PX / 2, DOT_PX, DOT_PX);
  }

  /** Round a cluster that would be overlooked. */
  ring(box: ChangeBoxDto, isCurrent: boolean): void {
    const frame = this.#frameOf(box);
    if (!frame || Math.max(frame.width, frame.height) >= SMALL_PX) return;
    const { context } = this;
    context.strokeStyle = this.#after;
    context.lineWidth = isCurrent ? 2.5 : 1;
    context.beginPath();
    context.arc(frame.x + frame.width / 2, frame.y + frame.height / 2, SMALL_PX, 0, 2 * Math.PI);
    context.stroke();
  }

  /** Where a box is on the screen, CSS px; null if it is out of sight. */
  #frameOf({ min, max }: ChangeBoxDto): { x: number; y: number; width: number; height: number } | null {
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let bits = 0; bits < 1 << this.axes; bits++) {
      const at = (axis: number): number => ((bits >> axis) & 1 ? max[axis]! : min[axis]!);
      const { x, y } = this.#seen(at(0), at(1), this.axes === 3 ? at(2) : 0);
      [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(bottom, y)];
    }
    const { widthPx, heightPx } = this.viewport;
    const isOut = !(right >= 0 && bottom >= 0 && left <= widthPx && top <= heightPx);
    return isOut ? null : { x: left, y: top, width: right - left, height: bottom - top };
  }

  #seen(x: number, y: number, z: number): { readonly x: number; readonly y: number } {
    return worldToScreen(this.camera, this.viewport, { x, y, z });
  }

  #stroke(runs: ChangeDto['linesAfter'], colour: string, widthPx: number): void {
    const { context, axes } = this;
    context.strokeStyle = colour;
    context.lineWidth = widthPx;
    context.beginPath();
    for (const run of runs)
      for (let i = 0; i + axes <= run.length; i += axes) {
        const { x, y } = this.#seen(run[i]!, run[i + 1]!, axes === 3 ? run[i + 2]! : 0);
        if (i === 0) context.moveTo(x, y);
        else context.lineTo(x, y);
      }
    context.stroke();
  }
}
