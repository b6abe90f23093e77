import { Zip, ZipPassThrough, strToU8 } from 'fflate';
import { frameName, frameTimes } from '@gull-pane/core/tour/frames';
import type { Parts } from '../actions/action';
import type { Viewport } from '@gull-pane/core/camera/camera';
import { shownFromDto } from '../wire/view-dto';
import { captionOf, planOf, type TourPlan } from '../store/tour-plan';

export interface FramesWish {
  readonly size: Viewport;
  readonly framesPerS: number;
  readonly hasCaptions: boolean;
}

/**
 * Draws every frame of a tour, each exactly at its time and complete, and packs them with a note of their rate.
 * @param onFrame told of each frame, from 1
 * @returns a .zip
 * @throws DOMException AbortError if it was called off; Error with a sentence for the user
 */
export async function writeFrames(
  target: Parts<'pane' | 'drawing' | 'seen'>,
  plan: TourPlan,
  { size, framesPerS, hasCaptions }: FramesWish,
  signal: AbortSignal,
  onFrame: (frame: number) => void,
): Promise<Blob> {
  const { stops, timeline, tour } = planOf(
    plan.tour,
    plan.stops.map(({ card }) => card),
    size,
  );
  const maker = target.seen.startFrames?.(size);
  if (!timeline || !maker) throw new Error('The pane shows nothing that could be drawn.');
  const { shown: before, update } = target.pane.getState();
  const parts: Uint8Array<ArrayBuffer>[] = [];
  let trouble: Error | null = null;
  const zip = new Zip((error, bytes) => {
    if (error) trouble = error;
    else parts.push(bytes);
  });
  const add = (name: string, bytes: Uint8Array): void => {
    const file = new ZipPassThrough(name); // PNGs are compressed already
    zip.add(file);
    file.push(bytes, true);
    if (trouble) throw trouble;
  };
  const times = frameTimes(timeline.durationMs, framesPerS, timeline.loops);
  let dressed = -1;
  try {
    for (const [k, timeMs] of times.entries()) {
      // the very end of a tour that loops is its start
      const { camera, looksOf, nearest } = timeline.at(timeMs);
      if (looksOf !== dressed) {
        const { shows } = stops[looksOf]!.card;
        update((shown) => shownFromDto(shows, target.drawing.getState(), shown), null);
        dressed = looksOf;
      }
      const caption = captionOf(stops[nearest]!);
      add(
        frameName(k, times.length),
        await maker.frame(camera, signal, hasCaptions ? writeCaption(caption) : undefined),
      );
      onFrame(k + 1);
    }
    const about = {
      tour: tour.name,
      framesPerSecond: framesPerS,
      frames: times.length,
      widthPx: size.widthPx,
      heightPx: size.heightPx,
      loops: timeline.loops,
      stops: stops.map((own, k) => ({ caption: captionOf(own), ...timeline.stays[k] })),
    };
    add('frames.json', strToU8(`${JSON.stringify(about, null, 2)}\n`));
    zip.end();
  } finally {
    maker.dispose();
    update(() => before, null);
  }
  return new Blob(parts, { type: 'application/zip' });
}

/** A line of text at the lower edge, on a plate that lets it be read over anything. */
const writeCaption =
  (caption: string) =>
  (paper: CanvasRenderingContext2D, { widthPx, heightPx }: Viewport): void => {
    const styles = getComputedStyle(document.documentElement);
    const sizePx = Math.max(Math.round(heightPx / 32), 11);
    paper.save();
    paper.font = `${sizePx}px 'Source Sans 3 Variable', sans-serif`;
    const width = Math.min(paper.measureText(caption).width, widthPx * 0.9);
    const [x, y] = [(widthPx - width) / 2, heightPx - 2.2 * sizePx];
    paper.fillStyle = styles.getPropertyValue('--panel').trim();
    paper.fillRect(x - sizePx, y - 0.8 * sizePx, width + 2 * sizePx, 2 * sizePx);
    paper.fillStyle = styles.getPropertyValue('--ink').trim();
    paper.textBaseline = 'middle';
    paper.fillText(caption, x, y + 0.2 * sizePx, widthPx * 0.9);
    paper.restore();
  };
