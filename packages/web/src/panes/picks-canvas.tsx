import { useEffect, useRef, type ReactElement } from 'react';
import { cameraAxes, worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { regionOfPane } from '@gull-pane/core/pick/region';
import { hidesOther } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';
import type { Outlines } from '../picking/pick-questions';

/** Width of what marks an object, CSS px. */
const PICKED_PX = 2.5;
/** Dash pattern of the hover outline, px: it differs from a selection without relying on colour. */
const BROKEN_PX = [5, 4];
const HOVERED_PX = 2;

/** Numbers of chords from which marks are thinner. */
const MANY = 4 * 600;

/**
 * Marks what is picked and what is under the cursor over the picture. The outlines come from the picking worker for the
 * view at rest; while the view moves they move with it.
 */
export function PicksCanvas({
  target,
}: {
  readonly target: Parts<'pane' | 'asked' | 'picked' | 'picks'>;
}): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const { pane, picks, picked: pickedStore, asked } = target;
    const pickedNow = (): ReadonlySet<number> => pickedStore.getState().picked;
    const context = canvas.current!.getContext('2d')!;
    let picked: Outlines | null = null;
    let hovered: Outlines | null = null;
    let frame = 0;
    const draw = (): void => {
      frame = 0;
      const { camera, viewport } = pane.getState();
      const ratio = window.devicePixelRatio;
      const { canvas: own } = context;
      const [width, height] = [Math.round(viewport.widthPx * ratio), Math.round(viewport.heightPx * ratio)];
      if (own.width !== width || own.height !== height) [own.width, own.height] = [width, height];
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, width, height);
      const styles = getComputedStyle(own);
      if (picked) stroke(context, picked, camera, viewport, ratio, styles.getPropertyValue('--accent'), PICKED_PX);
      if (hovered)
        stroke(context, hovered, camera, viewport, ratio, styles.getPropertyValue('--teal'), HOVERED_PX, BROKEN_PX);
    };
    const wake = (): void => {
      frame ||= requestAnimationFrame(draw);
    };
    const ask = (): void => {
      const { camera, viewport, isFlying } = pane.getState();
      if (isFlying || viewport.widthPx === 0) return;
      const question = { region: regionOfPane(camera, viewport), unitsPerPx: camera.unitsPerPx };
      const entries = pickedNow();
      const { hovered: under } = picks.getState();
      if (entries.size === 0) picked = null;
      else {
        asked.askLatest(
          'outlines',
          { ...question, entries: Uint32Array.from(entries) },
          (outlines) => {
            picked = pickedNow().size > 0 ? outlines : null;
            wake();
          },
          'picked outlines',
        );
      }
      if (!under) hovered = null;
      else {
        asked.askLatest(
          'outlines',
          { ...question, entries: Uint32Array.of(under.entry) },
          (outlines) => {
            hovered = picks.getState().hovered ? outlines : null;
            wake();
          },
          'hovered outlines',
        );
      }
      wake();
    };
    const stops = [
      pane.subscribe((state, before) => {
        if (hidesOther(state.shown, before.shown) && pickedNow().size > 0) ask();
        if (state.camera === before.camera && state.viewport === before.viewport && state.isFlying === before.isFlying)
          return;
        if (pickedNow().size === 0 && !picks.getState().hovered) return;
        wake();
        ask();
      }),
      picks.subscribe((state, before) => {
        if (state.hovered !== before.hovered) ask();
      }),
      pickedStore.subscribe(ask),
    ];
    return () => {
      cancelAnimationFrame(frame);
      for (const stop of stops) stop();
    };
  }, [target]);
  return <canvas ref={canvas} className="pane-canvas" aria-hidden />;
}

function stroke(
  context: CanvasRenderingContext2D,
  { anchor, chords, boxes }: Outlines,
  camera: Camera,
  viewport: Viewport,
  ratio: number,
  colour: string,
  widthPx: number,
  brokenPx: readonly number[] = [],
): void {
  const { right, up } = cameraAxes(camera);
  const at = worldToScreen(camera, viewport, { ...anchor, z: camera.target.z });
  const k = ratio / camera.unitsPerPx;
  context.setTransform(k * right.x, -k * up.x, k * right.y, -k * up.y, at.x * ratio, at.y * ratio);
  context.strokeStyle = colour;
  context.fillStyle = colour;
  // many lines close together would run into one blot
  context.lineWidth = (chords.length > MANY ? 0.6 : 1) * widthPx * camera.unitsPerPx;
  context.lineCap = 'round';
  context.setLineDash(brokenPx.map((px) => px * camera.unitsPerPx));
  context.beginPath();
  for (let i = 0; i < chords.length; i += 4) {
    if (i === 0 || chords[i] !== chords[i - 2] || chords[i + 1] !== chords[i - 1])
      context.moveTo(chords[i]!, chords[i + 1]!);
    context.lineTo(chords[i + 2]!, chords[i + 3]!);
  }
  context.stroke();
  const least = 1.5 * camera.unitsPerPx;
  for (let i = 0; i < boxes.length; i += 4) {
    const [x, y] = [boxes[i]!, boxes[i + 1]!];
    context.fillRect(x, y, Math.max(boxes[i + 2]! - x, least), Math.max(boxes[i + 3]! - y, least));
  }
}
