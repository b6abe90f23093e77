import type { Camera } from '@gull-pane/core/camera/camera';
import type { Moment, Motion } from '@gull-pane/core/motion/motion';
import type { StepKind } from '@gull-pane/core/trail/trail';

/** Longest time that one frame may count for, ms: after a pause, as in a hidden window, nothing leaps ahead. */
const LONGEST_FRAME_MS = 100;

/** What the mover moves. */
export interface Moved {
  readonly camera: () => Camera;
  readonly show: (moment: Moment) => void;
  /** Called when a motion has ended. @param leaves the step to record on the trail; null for none */
  readonly rest: (leaves: StepKind | null) => void;
  readonly now: () => number;
}

/** Runs at most one motion of a pane's view. The pane's frame loop is the only caller of `advance`. */
export class Mover {
  #running: { readonly motion: Motion; readonly startMs: number; lastMs: number } | null = null;

  constructor(private readonly moved: Moved) {}

  get motion(): Motion | null {
    return this.#running?.motion ?? null;
  }

  /** Starts a motion; ends the running one. */
  start(motion: Motion): void {
    this.end();
    const nowMs = this.moved.now();
    this.#running = { motion, startMs: nowMs, lastMs: nowMs };
  }

  /** Ends the given motion if it is running, or whichever is running if none is given. */
  end(motion: Motion | null = this.motion): void {
    if (this.#isOn(motion)) this.#stop(true);
  }

  /** Advances the running motion by one frame. @returns whether a motion is still running */
  advance(): boolean {
    const running = this.#running;
    if (!running) return false;
    const { now, camera, show } = this.moved;
    const nowMs = now();
    const frameMs = Math.min(nowMs - running.lastMs, LONGEST_FRAME_MS);
    running.lastMs = nowMs;
    const moment = running.motion.at(camera(), nowMs - running.startMs, frameMs);
    // the motion may have ended itself or started another one
    if (this.#isOn(running.motion)) {
      if (moment) show(moment);
      if (!moment || moment.isLast) this.#stop(false);
    }
    return this.#isOn();
  }

  #isOn(motion: Motion | null = this.motion): boolean {
    return motion !== null && motion === this.motion;
  }

  #stop(isInterrupted: boolean): void {
    const { motion } = this.#running!;
    this.#running = null;
    this.moved.rest(motion.leaves);
    motion.onEnd?.(isInterrupted);
  }
}
