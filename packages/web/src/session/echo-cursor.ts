import { pointedAt } from '@gull-pane/core/panes/echo';
import type { Parts } from '../actions/action';
import { usePreferences } from '../store/preferences-store';
import { tiedView } from './follow-ties';

/** So high and so deep what stands on a plan's place is looked for in solids, drawing units. */
const HEIGHTS = { low: -1e6, high: 1e6 };

/** Tells the other panes what a pane's cursor points at. @returns what ends it */
export function echoCursor(target: Parts<'pane' | 'drawing' | 'seen' | 'panes'>, isAlone: () => boolean): () => void {
  const { pane, panes, seen, drawing } = target;
  const { id } = pane.getState();
  const tell = (): void => {
    const { cursor, camera, viewport, isFlying, pivot } = pane.getState();
    const isOwn = panes.getState().echo?.pane === id;
    if (!cursor || isFlying || pivot || isAlone() || !usePreferences.getState().echoes) {
      if (isOwn) panes.getState().setEcho(null);
      return;
    }
    const surface = seen.surface?.hit(camera, viewport, cursor)?.point ?? null;
    const pointed = pointedAt(tiedView(target), cursor, surface, HEIGHTS);
    const { id: drawingId, unit, extents } = drawing.getState().drawing;
    const grid = { unit, extents: extents ?? null };
    if (pointed) panes.getState().setEcho({ pane: id, drawingId, grid, pointed });
    else if (isOwn) panes.getState().setEcho(null);
  };
  return pane.subscribe((state, before) => {
    if (state.cursor !== before.cursor || (state.cursor && state.camera !== before.camera)) tell();
  });
}
