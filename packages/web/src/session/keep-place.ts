import { panesOf } from '@gull-pane/core/panes/tiling';
import { addressOf } from '../store/keep-address';
import { keepLayout } from './arranged';
import type { Session } from './session';

/** What has stood this long is written to the address, ms; browsers allow only so many changes a second. */
const SETTLE_MS = 250;

/**
 * Keeps the page's address telling where the active pane looks, and beside it how all panes lie, so that reload and a
 * copied link bring them back.
 * @returns a function that stops it
 */
export function keepPlace({ panes, targetOf, arranged, takeAllBack }: Session): () => void {
  let timer: number | undefined;
  let written = '';
  const write = (): void => {
    const { active, tiling } = panes.getState();
    const target = targetOf(active);
    if (target.pane.getState().viewport.widthPx === 0) return;
    const layout = panesOf(tiling).length > 1 ? arranged() : null;
    const address = addressOf(target);
    const told = `${address} ${JSON.stringify(layout)}`;
    if (told !== written) keepLayout(address, layout);
    written = told;
  };
  const later = (): void => {
    window.clearTimeout(timer);
    timer = window.setTimeout(write, SETTLE_MS);
  };
  let stops: (() => void)[] = [];
  const watch = (): void => {
    for (const stop of stops) stop();
    stops = panesOf(panes.getState().tiling).flatMap((id) => {
      const { pane, drawing, clips } = targetOf(id);
      return [
        pane.subscribe(({ cursor }, before) => {
          if (cursor === before.cursor) later();
        }),
        drawing.subscribe(later),
        clips.subscribe(later),
      ];
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
