import { pruned, type Trail } from '@gull-pane/core/trail/trail';
import { MOST_KEPT_VIEWS, type TrailDto } from '@gull-pane/protocol/trail';
import type { Shown } from '@gull-pane/core/view/shown';
import { shownDifferences } from '@gull-pane/core/view/view';
import { shownFromDto, shownToDto, type NamedContent } from '../wire/view-dto';
import type { DrawingStore } from './drawing-store';
import { cameraFromDto, cameraToDto } from '../wire/camera-dto';
import type { PaneStore } from './pane-state';

/** A trail that has stood this long is kept, ms. */
const SETTLE_MS = 800;
/** Beyond this a browser doesn't finish sending when the page is left, bytes. */
const MOST_BYTES = 60_000;

/** A way of showing the drawing that takes more than this to tell isn't kept with the trail, letters. */
const MOST_SHOWN = 4000;

/** The trail as it is kept with the drawing. */
export function trailToDto(trail: Trail, content: NamedContent): TrailDto {
  for (let most = MOST_KEPT_VIEWS; ; most = Math.floor(most / 2)) {
    const { entries, current, forward } = pruned(trail, most);
    const told = [...new Set(entries.map((entry) => entry.shown))]
      .map((value) => ({ value, dto: shownToDto(value, content) }))
      .filter(({ dto }) => JSON.stringify(dto).length <= MOST_SHOWN);
    const indices = new Map(told.map(({ value }, index) => [value, index]));
    const views = entries.map(({ camera, shown, kind, parent, isElsewhere = false }, index) => ({
      ...cameraToDto(camera),
      kind,
      parent,
      forward: forward[index]!,
      ...(indices.has(shown) ? { shown: indices.get(shown)! } : {}),
      ...(isElsewhere ? { isElsewhere } : {}),
    }));
    const dto = { views, current, shown: told.map((one) => one.dto) };
    if (most <= 1 || JSON.stringify(dto).length <= MOST_BYTES) return dto;
  }
}

/**
 * A kept trail; null if there is none. Its times lie before everything to come, so that no burst goes on with it.
 * @param now how the drawing is shown now: where nothing is told, and one and the same value where it is told
 */
export function trailFromDto(
  { views, current, shown = [] }: TrailDto,
  content: NamedContent,
  now: Shown,
): Trail | null {
  if (views.length === 0) return null;
  const told = shown.map((dto) => {
    const value = shownFromDto(dto, content, now);
    return shownDifferences(value, now).length === 0 ? now : value;
  });
  return {
    entries: views.map((view) => ({
      camera: cameraFromDto(view),
      shown: (view.shown === undefined ? undefined : told[view.shown]) ?? now,
      kind: view.kind,
      timeMs: -Infinity,
      parent: view.parent,
      ...(view.isElsewhere ? { isElsewhere: true } : {}),
    })),
    current,
    forward: views.map(({ forward }) => forward),
  };
}

/**
 * Keeps a pane's trail with its drawing.
 * @param keep sends it; what fails is tried again with the next change
 * @returns a function that stops it
 */
export function keepTrail(
  pane: PaneStore,
  drawing: DrawingStore,
  keep: (trail: TrailDto) => Promise<void>,
): () => void {
  let timer: number | undefined;
  let kept = pane.getState().trail;
  const send = (): void => {
    window.clearTimeout(timer);
    const { trail } = pane.getState();
    if (trail === kept) return;
    kept = trail;
    keep(trailToDto(trail, drawing.getState())).catch(() => {
      kept = { ...trail }; // another one: the next change sends it
    });
  };
  const stop = pane.subscribe(({ trail }) => {
    if (trail === kept) return;
    window.clearTimeout(timer);
    timer = window.setTimeout(send, SETTLE_MS);
  });
  window.addEventListener('pagehide', send);
  return () => {
    send();
    stop();
    window.removeEventListener('pagehide', send);
  };
}
