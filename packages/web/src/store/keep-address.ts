import { offLayers, type DrawingStore } from './drawing-store';
import type { PaneStore } from './pane-store';
import { writeViewAddress } from './view-address';

/** A view that has stood this long is written to the address, ms; browsers allow only so many changes a second. */
const SETTLE_MS = 250;

/**
 * Keeps the page's address telling where the pane looks, so that reload and a copied link bring the view back.
 * @returns a function that stops it
 */
export function keepAddress(pane: PaneStore, drawing: DrawingStore): () => void {
  let timer: number | undefined;
  const write = (): void => {
    const { camera, viewport } = pane.getState();
    if (viewport.widthPx === 0) return;
    const { hidden, layers } = drawing.getState();
    const search = writeViewAddress(camera, hidden, offLayers(layers)).toString();
    if (location.search !== `?${search}`) history.replaceState(history.state, '', `?${search}`);
  };
  const later = (): void => {
    window.clearTimeout(timer);
    timer = window.setTimeout(write, SETTLE_MS);
  };
  const stops = [pane.subscribe(later), drawing.subscribe(later)];
  return () => {
    window.clearTimeout(timer);
    for (const stop of stops) stop();
  };
}
