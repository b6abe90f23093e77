import type { Camera } from '../camera/camera.ts';
import type { Vec3 } from '../geometry/vec.ts';
import type { StepKind } from '../trail/trail.ts';

/** Where a motion has brought a view. */
export interface Moment {
  readonly camera: Camera;
  /** What the view turns about, where that is to be shown. */
  readonly pivot?: Vec3;
  /** The motion is over with it. */
  readonly isLast?: boolean;
}

/** A way to move a view in time. The caller passes the time in; a motion never runs a loop itself. */
export interface Motion {
  /**
   * The view at a time.
   * @param now the camera as it is
   * @param elapsedMs since the motion began
   * @param frameMs since the frame before; a frame that took very long counts as a shorter one
   * @returns null if it is over already
   */
  readonly at: (now: Camera, elapsedMs: number, frameMs: number) => Moment | null;
  /** The step that it leaves on the trail, however it ends; null where its end was on the trail from the start. */
  readonly leaves: StepKind | null;
  /** Told when it has ended. @param isInterrupted by a hand or another motion */
  readonly onEnd?: (isInterrupted: boolean) => void;
}
