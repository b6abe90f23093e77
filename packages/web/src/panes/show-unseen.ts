import { worldToScreen } from '@gull-pane/core/camera/camera';
import type { Parts } from '../actions/action';

/** Between the lines of the hatch over what is unseen, CSS px. */
const HATCH_PX = 9;

/** Hatches what hasn't been seen while that is wanted: the more of a cell is unseen, the denser. @returns what ends it */
export function showUnseen(own: HTMLCanvasElement, { pane, coverage }: Parts<'pane' | 'coverage'>): () => void {
  const context = own.getContext('2d')!;
  let frame = 0;
  const draw = (): void => {
    frame = 0;
    const { camera, viewport } = pane.getState();
    const { grid, isShaded } = coverage.getState();
    const ratio = window.devicePixelRatio;
    const [width, height] = [Math.round(viewport.widthPx * ratio), Math.round(viewport.heightPx * ratio)];
    if (own.width !== width || own.height !== height) [own.width, own.height] = [width, height];
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    if (!grid || !isShaded) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const { box, columns, rows, unseen } = grid;
    const [cellX, cellY] = [(box.maxX - box.minX) / columns, (box.maxY - box.minY) / rows];
    context.save();
    context.beginPath();
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        if (unseen[row * columns + column]! <= 0) continue;
        const corners = [
          [0, 0],
          [1, 0],
          [1, 1],
          [0, 1],
        ].map(([right, up]) =>
          worldToScreen(camera, viewport, {
            x: box.minX + (column + right!) * cellX,
            y: box.minY + (row + up!) * cellY,
            z: camera.target.z,
          }),
        );
        corners.forEach(({ x, y }, k) => (k === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
        context.closePath();
      }
    context.clip();
    const styles = getComputedStyle(own);
    context.fillStyle = styles.getPropertyValue('--accent');
    context.globalAlpha = 0.1;
    context.fillRect(0, 0, viewport.widthPx, viewport.heightPx);
    context.globalAlpha = 0.55;
    context.strokeStyle = styles.getPropertyValue('--accent');
    context.lineWidth = 1;
    context.beginPath();
    for (let x = -viewport.heightPx; x < viewport.widthPx; x += HATCH_PX) {
      context.moveTo(x, viewport.heightPx);
      context.lineTo(x + viewport.heightPx, 0);
    }
    context.stroke();
    context.restore();
  };
  const wake = (): void => {
    frame ||= requestAnimationFrame(draw);
  };
  const stops = [pane.subscribe(wake), coverage.subscribe(wake)];
  wake();
  return () => {
    cancelAnimationFrame(frame);
    for (const stop of stops) stop();
  };
}
