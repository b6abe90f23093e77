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
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { PaneStore } from './pane-store';

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

/** A frame that took longer moves nothing farther, ms. */
const LONGEST_FRAME_MS = 100;
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
  let frame = 0;
  let lastMs = 0;
  /** What is turned about, from the first push to the last. */
  let pivot: Vec3 | null = null;

  return createStore<SixAxisState>((set, get) => {
    const isPushed = (): boolean => shapedAxes(now, get().settings).some((rate) => rate !== 0);
    const end = (): void => {
      cancelAnimationFrame(frame);
      frame = 0;
      if (!pivot) return;
      pivot = null;
      pane.getState().apply({ kind: 'dragEnd' }, performance.now());
    };
    const step = (seconds: number): void => {
      const { camera, viewport, limits, isHeld, pivotOf, lookAlong, dragTo } = pane.getState();
      const { settings } = get();
      pivot ??= settings.carries === 'object' ? pivotOf(camera, viewport) : eyeOf(camera, viewport);
      const next = moveBySixAxis(camera, viewport, now, settings, { seconds, pivot, limits, isHeld: isHeld() });
      if (next === camera) return;
      // what is turned about is shown, where anything turns
      if (next.orientation !== camera.orientation && settings.carries === 'object') lookAlong(next, pivot);
      else dragTo(next);
    };
    const advance = (nowMs: number): void => {
      frame = 0;
      const seconds = Math.min(nowMs - lastMs, LONGEST_FRAME_MS) / 1000;
      lastMs = nowMs;
      if (!isPushed()) {
        end();
        return;
      }
      step(seconds);
      frame = requestAnimationFrame(advance);
    };
    const wake = (): void => {
      if (frame !== 0) return;
      lastMs = performance.now();
      frame = requestAnimationFrame(advance);
    };
    let player = 0;
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
        if (isPushed()) {
          pane.getState().endDrift();
          wake();
        }
      },
      play(trace) {
        get().stop();
        set({ isPlaying: true });
        const startMs = performance.now();
        const tick = (nowMs: number): void => {
          const sample = sampleAt(trace, Math.max(nowMs - startMs, 0));
          if (!sample) {
            get().stop();
            return;
          }
          get().feed(sample);
          player = requestAnimationFrame(tick);
        };
        player = requestAnimationFrame(tick);
      },
      stop() {
        cancelAnimationFrame(player);
        now = still;
        if (get().isPlaying) set({ isPlaying: false });
        end();
      },
    };
  });
}

/** Lets a source move a pane. @returns a function that ends it */
export const attachSixAxis = (store: SixAxisStore, source: SixAxisSource): (() => void) =>
  source.start((sample) => store.getState().feed(sample));
