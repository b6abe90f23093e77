import type { Camera } from '@gull-pane/core/camera/camera';
import type { ActionTarget } from '../actions/action';
import type { SolidScene } from '../render/solid/solid-scene';

/** Tiles that come may hold more of what stands before: it is looked for again when so long none has come, ms. */
const CALM_MS = 150;

const none: ReadonlySet<number> = new Set();

/**
 * Keeps what stands before objects that were framed, or found, until the view or the picks change.
 * @param onChange called when it has changed
 */
export function fadeBefore(
  scene: SolidScene,
  { pane, picks, picked }: Pick<ActionTarget, 'pane' | 'picks' | 'picked'>,
  onChange: () => void,
): { readonly faded: ReadonlySet<number>; readonly stop: () => void } {
  const { id } = pane.getState();
  let faded = none;
  /** The view that it was looked for in. */
  let at: Camera | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const set = (next: ReadonlySet<number>): void => {
    if (next.size === faded.size && [...next].every((object) => faded.has(object))) return;
    faded = next;
    onChange();
  };
  const look = (): void => {
    const { framed } = picks.getState();
    const state = pane.getState();
    if (!framed || state.isFlying) return;
    at = state.camera;
    set(scene.standingBefore(id, state, framed, state.shown.clips));
  };
  const later = (): void => {
    clearTimeout(timer);
    if (picks.getState().framed) timer = setTimeout(look, CALM_MS);
  };
  const end = (): void => {
    clearTimeout(timer);
    at = null;
    picks.getState().forgetFramed();
    set(none);
  };
  const stops = [
    pane.subscribe(({ camera, isFlying, shown }, before) => {
      if (at && (camera !== at || shown !== before.shown)) end();
      else if (!isFlying && before.isFlying) look();
    }),
    picks.subscribe(({ framed }, before) => {
      // framed where it was already: no flight will tell of its end
      if (framed && framed !== before.framed) later();
    }),
    picked.subscribe(({ picked: now }) => {
      if (now !== picks.getState().framed) end();
    }),
    scene.onChange(later),
  ];
  return {
    get faded() {
      return faded;
    },
    stop: () => {
      clearTimeout(timer);
      for (const stop of stops) stop();
    },
  };
}
