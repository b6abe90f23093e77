import { createStore, type StoreApi } from 'zustand/vanilla';
import {
  moveBySixAxis,
  sampleAt,
  shapedAxes,
  usualSixAxis,
  type SixAxisSample,
  type SixAxisSettings,
  type SixAxisSource,
  type Trace,
} from '@gull-pane/core/device/six-axis';
import { eyeOf } from '@gull-pane/core/camera/camera';
import type { Motion } from '@gull-pane/core/motion/motion';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { PaneStore } from './pane-state';

export interface SixAxisState {
  /** The controller on the screen is shown. */
  readonly isShown: boolean;
  readonly settings: SixAxisSettings;
  /** A recording is being played. */
  readonly isPlaying: boolean;
  readonly show: (isShown: boolean) => void;
  readonly set: (change: Partial<SixAxisSettings>) => void;
  /** What a controller tells now; whatever it is. */
  readonly feed: (sample: SixAxisSample) => void;
  readonly play: (trace: Trace) => void;
  readonly stop: () => void;
}
export type SixAxisStore = StoreApi<SixAxisState>;

const still: SixAxisSample = { axes: [0, 0, 0, 0, 0, 0], buttons: [], timeMs: 0 };
const KEPT = 'gull-pane-six-axis';

function keptSettings(): SixAxisSettings {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<SixAxisSettings>;
    return { ...usualSixAxis, ...kept };
  } catch {
    return usualSixAxis;
  }
}

/** Moves a pane by a controller with six axes: one on the screen, one that is plugged in, or a recording of one. */
export function createSixAxisStore(pane: PaneStore): SixAxisStore {
  let now: SixAxisSample = still;
  /** A recording that plays in place of a hand. */
  let trace: Trace | null = null;

  return createStore<SixAxisState>((set, get) => {
    const isPushed = (): boolean => shapedAxes(now, get().settings).some((rate) => rate !== 0);
    /** What the controller does from the first push to the last, about one point. */
    const pushed = (): Motion => {
      let pivot: Vec3 | null = null;
      return {
        at(camera, elapsedMs, frameMs) {
          const played = trace && sampleAt(trace, elapsedMs);
          if (trace) now = played ?? still;
          if (!played && !isPushed()) return null;
          const { viewport, limits, isHeld, pivotOf, orbitMode } = pane.getState();
          const { settings } = get();
          pivot ??= settings.carries === 'object' ? pivotOf(camera, viewport) : eyeOf(camera, viewport);
          const way = { seconds: frameMs / 1000, pivot, limits, isHeld: isHeld(), isLevel: orbitMode === 'level' };
          const next = moveBySixAxis(camera, viewport, now, settings, way);
          // what is turned about is shown, where anything turns
          const turns = next.orientation !== camera.orientation && settings.carries === 'object';
          return { camera: next, ...(turns ? { pivot } : {}) };
        },
        leaves: 'drag',
        onEnd() {
          if (!trace) return;
          trace = null;
          now = still;
          set({ isPlaying: false });
        },
      };
    };
    let motion: Motion | null = null;
    const wake = (): void => {
      if (motion && pane.getState().isMovedBy(motion)) return;
      motion = pushed();
      pane.getState().move(motion);
    };
    const end = (): void => {
      if (motion) pane.getState().endMotion(motion);
    };
    return {
      isShown: false,
      settings: keptSettings(),
      isPlaying: false,
      show(isShown) {
        if (!isShown) get().stop();
        set({ isShown });
      },
      set(change) {
        const settings = { ...get().settings, ...change };
        set({ settings });
        localStorage.setItem(KEPT, JSON.stringify(settings));
      },
      feed(sample) {
        now = sample;
        if (isPushed()) wake();
      },
      play(recording) {
        get().stop();
        trace = recording;
        set({ isPlaying: true });
        motion = pushed();
        pane.getState().move(motion);
      },
      stop() {
        now = still;
        end();
      },
    };
  });
}

/** Lets a source move a pane. @returns a function that ends it */
export const attachSixAxis = (store: SixAxisStore, source: SixAxisSource): (() => void) =>
  source.start((sample) => store.getState().feed(sample));
