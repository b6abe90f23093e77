import { pruned, type Trail } from '@gull-pane/core/trail/trail';
import { MOST_KEPT_VIEWS, type TrailDto } from '@gull-pane/protocol/trail';
import { cameraFromDto, cameraToDto } from './camera-dto';
import type { PaneStore } from './pane-store';

/** A trail that has stood this long is kept, ms. */
const SETTLE_MS = 800;
/** Beyond this a browser doesn't finish sending when the page is left, bytes. */
const MOST_BYTES = 60_000;

/** The trail as it is kept with the drawing. */
export function trailToDto(trail: Trail): TrailDto {
  for (let most = MOST_KEPT_VIEWS; ; most = Math.floor(most / 2)) {
    const { entries, current, forward } = pruned(trail, most);
    const views = entries.map(({ camera, kind, parent }, index) => ({
      ...cameraToDto(camera),
      ...{ kind, parent, forward: forward[index]! },
    }));
    const dto = { views, current };
    if (most <= 1 || JSON.stringify(dto).length <= MOST_BYTES) return dto;
  }
}

/** A kept trail; null if there is none. Its times lie before everything to come, so that no burst goes on with it. */
export function trailFromDto({ views, current }: TrailDto): Trail | null {
  if (views.length === 0) return null;
  return {
    entries: views.map((view) => ({
      camera: cameraFromDto(view),
      kind: view.kind,
      timeMs: -Infinity,
      parent: view.parent,
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
export function keepTrail(pane: PaneStore, keep: (trail: TrailDto) => Promise<void>): () => void {
  let timer: number | undefined;
  let kept = pane.getState().trail;
  const send = (): void => {
    window.clearTimeout(timer);
    const { trail } = pane.getState();
    if (trail === kept) return;
    kept = trail;
    keep(trailToDto(trail)).catch(() => {
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
