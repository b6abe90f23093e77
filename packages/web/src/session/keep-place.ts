import { panesOf } from '@gull-pane/core/panes/tiling';
import { addressOf } from '../store/keep-address';
import { keepInHistory, keepOnLeaving } from '../store/page-place';
import type { Session } from './session';

/** What has stood this long is written to the address, ms; browsers allow only so many changes a second. */
const SETTLE_MS = 250;
/** The same for what people do once rather than all the time, such as hiding a layer. */
const SOON_MS = 20;

/**
 * Keeps the page's address telling where the active pane looks, and beside it how all panes lie, so that reload and a
 * copied link bring them back.
 * @returns a function that stops it
 */
export function keepPlace({ panes, targetOf, arranged, takeAllBack }: Session): () => void {
  let timer: number | undefined;
  let written = '';
  const write = (keep = keepInHistory): void => {
    const target = targetOf(panes.getState().active);
    if (target.pane.getState().viewport.widthPx === 0) return;
    const layout = arranged();
    const address = addressOf(target);
    const told = `${address} ${JSON.stringify(layout)}`;
    if (told !== written || keep !== keepInHistory) keep(address, layout);
    written = told;
  };
  const later = (waitMs = SETTLE_MS): void => {
    window.clearTimeout(timer);
    timer = window.setTimeout(() => write(), waitMs);
  };
  let stops: (() => void)[] = [];
  const watch = (): void => {
    for (const stop of stops) stop();
    stops = panesOf(panes.getState().tiling).map((id) => {
      const { pane } = targetOf(id);
      return pane.subscribe(({ cursor, shown }, before) => {
        if (shown !== before.shown) later(SOON_MS);
        else if (cursor === before.cursor) later();
      });
    });
    later();
  };
  const stop = panes.subscribe((state, before) => {
    if (state.tiling !== before.tiling || state.generation !== before.generation) watch();
    else if (state.active !== before.active || state.ties !== before.ties) later();
  });
  const leave = (): void => {
    takeAllBack();
    write();
    write(keepOnLeaving);
  };
  window.addEventListener('pagehide', leave);
  watch();
  return () => {
    window.removeEventListener('pagehide', leave);
    window.clearTimeout(timer);
    stop();
    for (const end of stops) end();
  };
}
