import type { Camera } from '@gull-pane/core/camera/camera';
import type { Moment, Motion } from '@gull-pane/core/motion/motion';
import type { StepKind } from '@gull-pane/core/trail/trail';

/** A frame that took longer counts as so long, ms: a window that was hidden doesn't make up for the time. */
const LONGEST_FRAME_MS = 100;

/** What the mover moves. */
export interface Moved {
  readonly camera: () => Camera;
  readonly show: (moment: Moment) => void;
  /** The motion is over. @param leaves the step that it leaves on the trail */
  readonly rest: (leaves: StepKind | null) => void;
  readonly now: () => number;
}

/** What moves a pane's view in time: one motion at most. The pane's frame loop is the only caller of `advance`. */
export class Mover {
  #running: { readonly motion: Motion; readonly startMs: number; lastMs: number } | null = null;

  constructor(private readonly moved: Moved) {}

  get motion(): Motion | null {
    return this.#running?.motion ?? null;
  }

  /** Begins a motion; the one that runs ends. */
  start(motion: Motion): void {
    this.end();
    const nowMs = this.moved.now();
    this.#running = { motion, startMs: nowMs, lastMs: nowMs };
  }

  /** Ends a motion if it runs; whichever runs if none is named. */
  end(motion: Motion | null = this.motion): void {
    if (this.#isOn(motion)) this.#stop(true);
  }

  /** Moves on. @returns whether there is more to come */
  advance(): boolean {
    const running = this.#running;
    if (!running) return false;
    const { now, camera, show } = this.moved;
    const nowMs = now();
    const frameMs = Math.min(nowMs - running.lastMs, LONGEST_FRAME_MS);
    running.lastMs = nowMs;
    const moment = running.motion.at(camera(), nowMs - running.startMs, frameMs);
    // looking where it is may have ended it, or begun another
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
